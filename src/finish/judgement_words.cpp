// SPDX-License-Identifier: GPL-3.0-or-later
#include "finish/judgement.h"

#include "base/phrase.h"
#include "finish/lines.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

/// "1.2 stops", "1.0 stop" and "0.5 stop".
std::string stops(double v) {
  return v > 1.05 ? phrase("{:.1f} stops", v) : phrase("{:.1f} stop", v);
}

std::string placeWord(SceneKind kind) {
  return kind == SceneKind::Interior    ? phrase("The room")
         : kind == SceneKind::Landscape ? phrase("The land")
                                        : phrase("The picture");
}

std::string allowed(const Finding& f, int digits) {
  return f.tooMuch ? phrase("; up to {:.{}f} is not seen", f.threshold, digits) : std::string();
}

} // namespace

std::string sentence(const Finding& f, const JudgedScene& scene) {
  switch (f.kind) {
  case FindingKind::WhiteClipped: return phrase("{:.1f} % of the picture is at white{}.", f.figure, allowed(f, 0));
  case FindingKind::BlackClipped: return phrase("{:.1f} % of the picture is at black{}.", f.figure, allowed(f, 0));
  case FindingKind::Halo: return phrase("Edges carry rims of {:.2f} stop{}.", f.figure, allowed(f, 2));
  case FindingKind::Flat:
    if (f.figure < 0) return phrase("There is too little texture to say how crisp it is.");
    return phrase("Texture keeps {:.0f} % of the contrast that an exposure made for it would give{}.", 100 * f.figure,
                  f.tooMuch ? phrase("; below {:.0f} % it looks flat", 100 * f.threshold) : std::string());
  case FindingKind::UnnaturalColour:
    return phrase("{:.1f} % of the picture is more colourful than the scene was{}.", f.figure, allowed(f, 1));
  case FindingKind::ShadowNoise: return phrase("Noise in the shadows is {:.1f} L*{}.", f.figure, allowed(f, 1));
  case FindingKind::TiltedVerticals: return phrase("Verticals lean by {:.1f} degrees{}.", f.figure, allowed(f, 1));
  case FindingKind::GhostsLeft:
    if (f.figure < 0) return phrase("Ghosts were not looked for.");
    return phrase("Ghosts are left in {:.2f} % of the picture{}.", f.figure, allowed(f, 2));
  case FindingKind::Greyer: {
    const std::string metered = scene.byFrame ? phrase("the frame you metered") : phrase("a single metered exposure");
    if (f.figure < 0.1) return phrase("{} is as light as {}.", placeWord(scene.kind), metered);
    return phrase("{} is {} darker than {}.", placeWord(scene.kind), stops(f.figure), metered);
  }
  case FindingKind::MilkyWindow:
    if (f.figure < 0) return phrase("There is no window with a view to judge.");
    return phrase("The view in the window keeps {:.0f} % of the contrast of a frame exposed for it{}.", 100 * f.figure,
                  f.tooMuch ? phrase("; below {:.0f} % it looks milky", 100 * f.threshold) : std::string());
  default: return phrase("{:.2f} % of the picture are dark blotches of one pure colour{}.", f.figure, allowed(f, 1));
  }
}

std::string remedyWords(FindingKind kind) {
  switch (kind) {
  case FindingKind::WhiteClipped: return phrase("Bring the lights down");
  case FindingKind::BlackClipped: return phrase("Lift the darkest tones");
  case FindingKind::Halo: return phrase("Less form and texture");
  case FindingKind::Flat: return phrase("Give contrast back");
  case FindingKind::UnnaturalColour: return phrase("Calm the colour");
  case FindingKind::ShadowNoise: return phrase("Quiet the shadows");
  case FindingKind::GhostsLeft: return phrase("Combine again, stricter on movement");
  case FindingKind::Greyer: return phrase("As light as metered");
  case FindingKind::MilkyWindow: return phrase("Clear the view");
  case FindingKind::Blotches: return phrase("Calm the darkest colours");
  default: return phrase("Set the verticals plumb");
  }
}

namespace {

/// Moves what the scene has at `scene` by stops on paper.
void pull(ToneSettings& t, const ToneAnalysis& a, double scene, double by) {
  const double at = ToneCurve(placedTies(a, t))(scene) + by;
  std::erase_if(t.pulls, [&](const Tie& p) { return std::abs(p.scene - scene) < 0.6; });
  t.pulls.push_back({scene, std::clamp(at, -11.0, 1.0)});
}

void clearView(Recipe& r) {
  auto windows = std::find_if(r.areas.begin(), r.areas.end(),
                              [](const Area& area) { return area.shape == AreaShape::Windows && !area.inverted; });
  if (windows == r.areas.end()) {
    Area area;
    area.shape = AreaShape::Windows;
    windows = r.areas.insert(r.areas.end(), area);
  }
  windows->contrast = std::min(1.5, windows->contrast + 0.3);
  windows->exposure = std::max(-2.0, windows->exposure - 0.15);
}

/// All of the picture's darkest light, whatever its place.
void calmTheDark(Recipe& r, const ToneAnalysis& a) {
  const double limit = Rendering(a.rendering).lightAt(paperOf(22));
  auto dark = std::find_if(r.areas.begin(), r.areas.end(), [](const Area& area) {
    return area.shape == AreaShape::Oval && area.b.x >= 1.9 && area.below;
  });
  if (dark == r.areas.end()) {
    Area area;
    area.b = {2, 2}, area.softness = 0, area.followEdges = false;
    area.below = limit;
    dark = r.areas.insert(r.areas.end(), area);
  }
  dark->saturation = std::max(-1.0, dark->saturation - 0.6);
}

} // namespace

Recipe remedied(const Recipe& recipe, const Finding& f, const ToneAnalysis& a) {
  Recipe r = recipe;
  ToneSettings& t = r.tone;
  switch (f.kind) {
  case FindingKind::WhiteClipped: pull(t, a, a.histogram.below(0.985), -0.4); break;
  case FindingKind::BlackClipped: pull(t, a, a.histogram.below(0.015), 0.7); break;
  case FindingKind::Halo:
    t.form = 1 + 0.5 * (t.form - 1), t.detail = 1 + 0.5 * (t.detail - 1), t.veil *= 0.5,
    t.form = std::min(t.form, 1.0) * 0.95;
    break;
  case FindingKind::Flat: t.form = std::min(1.8, t.form + 0.2), t.detail = std::min(1.8, t.detail + 0.2); break;
  case FindingKind::UnnaturalColour: t.saturation = std::max(0.0, t.saturation - 0.12), t.vivid *= 0.5; break;
  case FindingKind::ShadowNoise:
    r.denoise = std::min(1.0, r.denoise + 0.35), t.quiet = std::min(2.0, t.quiet + 0.3);
    break;
  case FindingKind::TiltedVerticals: {
    // What is found now comes on top of what was turned before.
    const Verticals v = findVerticals(a.logLight, kAssumedFocal);
    if (v.found())
      r.geometry.roll = std::clamp(r.geometry.roll + v.roll, -45.0, 45.0),
      r.geometry.pitch = std::clamp(r.geometry.pitch + v.pitch, -45.0, 45.0), r.geometry.strength = 1;
    break;
  }
  case FindingKind::GhostsLeft: break; // no finish mends what the frames were combined to
  case FindingKind::Greyer: t.exposure = std::min(3.0, t.exposure + f.figure); break;
  case FindingKind::MilkyWindow: clearView(r); break;
  case FindingKind::Blotches: calmTheDark(r, a); break;
  }
  return r;
}

} // namespace ml
