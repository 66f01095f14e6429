// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of a combined picture: to the finish, to the judgement, to the reader.
#include "pipeline/combine.h"

#include "base/phrase.h"
#include "base/spelled.h"
#include "exposure/marks.h"
#include "tone/facts_text.h"

#include <algorithm>

namespace ml {
namespace {

std::string howJoined(const Combined& c) {
  switch (c.method) {
  case CombineMethod::Fusion: return phrase("are blended as pictures");
  case CombineMethod::ToneRange: return phrase("are joined by tone");
  default: return phrase("are combined");
  }
}

} // namespace

SceneFacts sceneFacts(const Combined& c) {
  SceneFacts facts = sceneFacts(c.ev100OfUnit, c.method, c.metered.ties);
  facts.sphere = facts.plumb = c.sphere;
  return facts;
}

std::map<std::string, std::string> notesOf(const Combined& c) {
  return textOf(sceneFacts(c));
}

SceneFacts sceneFacts(double ev100OfUnit, CombineMethod method, std::vector<Tie> metered) {
  SceneFacts facts(ev100OfUnit, method == CombineMethod::Fusion ? shownAlready() : std::move(metered));
  facts.asItIs = method == CombineMethod::Fusion || method == CombineMethod::Single;
  return facts;
}

std::optional<GhostsLeft> ghostsLeft(const Combined& c) {
  if (!c.motion.looked) return {};
  GhostsLeft ghosts{c.motion.ghostShare, {}};
  for (const auto& g : c.motion.ghosts)
    ghosts.places.push_back(
        {(g.x * c.fullWidth - c.crop.x) / c.crop.width, (g.y * c.fullHeight - c.crop.y) / c.crop.height});
  return ghosts;
}

std::string verdict(const Combined& c) {
  double furthest = 0;
  for (const auto& frame : c.frames)
    furthest = std::max(furthest, frame.registration.transform.reach(c.crop.width, c.crop.height));
  std::vector<const CombinedFrame*> own;
  for (const auto& frame : c.frames)
    if (!frame.lent && !frame.flash) own.push_back(&frame);
  const auto lent = std::size_t(
      std::count_if(c.frames.begin(), c.frames.end(), [](const CombinedFrame& frame) { return frame.lent; }));
  const PrintedEnds ends = printedEnds(own.front()->settings, own.back()->settings);
  const bool single = own.size() == 1 || c.method == CombineMethod::Single;
  std::string text =
      single ? phrase("One frame at {} is taken as it is", print(c.frames[std::size_t(c.reference)].settings.time))
             : phrase("{} frames from {} to {} {}", spelled(c.method == CombineMethod::ToneRange ? 2 : own.size()),
                      ends.first, ends.last, howJoined(c));
  if (!single)
    text += !c.aligned     ? phrase(", not aligned")
            : furthest > 0 ? phrase(", moved by up to {:.1f} pixels", furthest)
                           : phrase(", none had moved");
  const auto moved = std::count_if(c.motion.places.begin(), c.motion.places.end(),
                                   [](const MovedRegion& place) { return !place.painted; });
  if (moved > 0)
    text += moved == 1 ? phrase("; something moved in 1 place, taken from one frame")
                       : phrase("; something moved in {} places, each taken from one frame", moved);
  text += c.clippedShare >= 0.0005 ? phrase("; {:.1f} % of the picture is clipped in every frame", 100 * c.clippedShare)
                                   : phrase("; nothing is clipped");
  if (lent > 0)
    text += lent == 1 ? phrase("; a frame of another set stands by, for places that are taken from it")
                      : phrase("; {} frames of other sets stand by, for places that are taken from them", lent);
  text += ".";
  for (const auto& remark : c.remarks) text += " " + remark;
  if (!c.leftOut.empty())
    text += " " + (c.leftOut.size() == 1
                       ? phrase("One file is left out: {}", c.leftOut.front().reason.message)
                       : phrase("{} files are left out: {}", c.leftOut.size(), c.leftOut.front().reason.message));
  return text;
}

} // namespace ml
