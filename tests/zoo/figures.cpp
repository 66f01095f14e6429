// SPDX-License-Identifier: GPL-3.0-or-later
#include "zoo/figures.h"

#include "align/register.h"
#include "codec/png_file.h"
#include "ingest/grouping.h"
#include "ingest/load_frame.h"
#include "judge/set_judge.h"
#include "judge/sharpness.h"
#include "pipeline/combine.h"
#include "pipeline/inspect.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <limits>
#include <map>

namespace ml::zoo {
namespace {

std::vector<std::filesystem::path> filesOf(const MadeSet& set) {
  std::vector<std::filesystem::path> files;
  for (const MadeFrame& f : set.frames) files.push_back(f.file);
  return files;
}

Frame loaded(const std::filesystem::path& file) {
  auto frame = loadFrame(file);
  if (!frame) {
    std::fprintf(stderr, "%s\n", frame.error().message.c_str());
    std::abort();
  }
  return std::move(*frame);
}

/// Reference pixel to a frame's pixel, from the poses alone.
void truePlace(const Pose& reference, const Pose& frame, int w, int h, double x, double y, double& u, double& v) {
  const double cx = (w - 1) / 2.0, cy = (h - 1) / 2.0, rad = std::numbers::pi / 180;
  const double ca = std::cos(reference.degrees * rad), sa = std::sin(reference.degrees * rad),
               cb = std::cos(frame.degrees * rad), sb = std::sin(frame.degrees * rad);
  const double wx = ca * (x - cx) - sa * (y - cy) + reference.dx - frame.dx,
               wy = sa * (x - cx) + ca * (y - cy) + reference.dy - frame.dy;
  u = cx + cb * wx + sb * wy;
  v = cy - sb * wx + cb * wy;
}

Said saidOf(const SetVerdict& verdict) {
  return verdict.answer == Answer::Holds        ? Said::Holds
         : verdict.answer == Answer::CannotTell ? Said::CannotTell
                                                : Said::Not;
}

} // namespace

Judged judgedAsItLands(const MadeSet& set, bool handHeld) {
  JudgeSetup setup;
  for (const Shot& s : set.planned) setup.planned.push_back({{s.seconds}, {s.fNumber}, {double(s.iso)}});
  setup.support = handHeld ? Support::Hand : Support::Tripod;
  SetJudge judge(setup);
  for (const int i : set.fired) judge.add(loaded(set.frames[std::size_t(i)].file));
  const SetVerdict verdict = judge.verdict(true);
  std::string all = verdict.sentence;
  for (const auto& f : judge.frames()) all += " | " + f.sentence;
  return {saidOf(verdict), all};
}

std::string described(const MadeSet& set, bool handHeld) {
  JudgeSetup setup;
  for (const Shot& s : set.planned) setup.planned.push_back({{s.seconds}, {s.fNumber}, {double(s.iso)}});
  setup.support = handHeld ? Support::Hand : Support::Tripod;
  SetJudge judge(setup);
  std::vector<std::shared_ptr<const Sketch>> sketches;
  for (const int i : set.fired) {
    sketches.push_back(sketchOf(loaded(set.frames[std::size_t(i)].file), {}));
    judge.addSketch(sketches.back());
  }
  std::string out = judge.verdict(true).sentence + "\n";
  char text[400];
  for (const auto& f : judge.frames()) {
    std::snprintf(
        text, sizeof text,
        "frame %d %.5f s: clipped %.4f, soft %.2f, light %.3f, moved %.4f at %d %d %d %d, shift %.2f %.2f: %s\n",
        f.frame + 1, f.settings.time.value, f.clippedShare, f.softness, f.light.value, f.movedShare, f.movedPlace.x,
        f.movedPlace.y, f.movedPlace.width, f.movedPlace.height, f.shiftX, f.shiftY, f.sentence.c_str());
    out += text;
  }
  std::vector<LightMember> members;
  for (std::size_t k = 0; k < set.fired.size(); ++k) members.push_back({sketches[k].get(), int(k)});
  std::sort(members.begin(), members.end(), [](const auto& a, const auto& b) {
    return relativeExposure(a.sketch->settings) < relativeExposure(b.sketch->settings);
  });
  std::map<std::pair<std::size_t, std::size_t>, PairPlace> places;
  const auto light = findSetLight(members,
                                  [&](std::size_t i, std::size_t j) {
                                    return &(places[{i, j}] = placePair(*members[i].sketch, *members[j].sketch));
                                  },
                                  false, {});
  for (std::size_t i = 0; i < members.size(); ++i) {
    const auto& made = set.frames[std::size_t(set.fired[std::size_t(members[i].arrived)])];
    const double truth =
        std::log2(made.exposure / set.frames.front().exposure * set.frames.front().shot.seconds / made.shot.seconds);
    const auto& l = light.photometry.light[i];
    std::snprintf(text, sizeof text, "  light of frame %d: %.3f (true %.3f, one constant apart), red %.3f, blue %.3f\n",
                  members[i].arrived + 1, l.stops, truth, l.red, l.blue);
    out += text;
  }
  std::snprintf(text, sizeof text, "  light step before %d: %.3f +- %.3f; colour before %d: %.3f +- %.3f\n",
                light.light.before + 1, light.light.stops, light.light.sigma, light.colour.before + 1,
                light.colour.stops, light.colour.sigma);
  out += text;
  std::vector<ViewMember> view{{members.front().sketch, {}}};
  for (std::size_t i = 0; i + 1 < members.size(); ++i)
    view.push_back({members[i + 1].sketch, places[{i, i + 1}].transform.after(view.back().fromFirst)});
  const auto& base = set.frames[std::size_t(set.fired[std::size_t(members.front().arrived)])];
  for (std::size_t i = 1; i < members.size(); ++i) {
    const auto& frame = set.frames[std::size_t(set.fired[std::size_t(members[i].arrived)])];
    double worst = 0, u, v, tu, tv;
    for (const auto& [x, y] : {std::pair{0, 0},
                               {set.scene->width() - 1, 0},
                               {0, set.scene->height() - 1},
                               {set.scene->width() / 2, set.scene->height() / 2}}) {
      view[i].fromFirst.map(x, y, u, v);
      truePlace(base.pose, frame.pose, set.scene->width(), set.scene->height(), x, y, tu, tv);
      worst = std::max(worst, std::hypot(u - tu, v - tv));
    }
    std::snprintf(text, sizeof text, "  place of %d on the darkest: off by %.2f px at most\n", members[i].arrived + 1,
                  worst);
    out += text;
  }
  const auto sharpness = sharpnessOf(view, light.tones.get());
  for (std::size_t i = 0; i < sharpness.size(); ++i) {
    std::snprintf(text, sizeof text, "  sharpness of %d: %.2f +- %.2f, group %d\n", members[i].arrived + 1,
                  sharpness[i].log, sharpness[i].sigma, sharpness[i].group);
    out += text;
  }
  if (const auto& r = light.photometry.response) {
    std::snprintf(text, sizeof text, "  curve from %s, %zu samples, disagreement %.3f -> %.3f\n", r->start.c_str(),
                  r->samples, r->disagreementBefore, r->disagreementAfter);
    out += text;
    for (int k = 1; k < 16; ++k) {
      const double v = k / 16.0;
      std::snprintf(text, sizeof text, "    %.3f: found %.2f, true %.2f\n", v,
                    std::log2(r->table.channel(1)[int(v * 255)] / r->table.channel(1)[128]),
                    std::log2(set.camera.curve.inverse(v) / set.camera.curve.inverse(128 / 255.0)));
      out += text;
    }
  }
  return out;
}

Judged inspected(const MadeSet& set) {
  const Grouping grouping = groupFiles(filesOf(set));
  Judged out;
  for (const auto& group : inspectSets(grouping, {})) {
    const Said said = saidOf(group.verdict);
    if (said == Said::Not || (said == Said::CannotTell && out.said == Said::Holds)) out.said = said;
    out.sentence += group.verdict.sentence + " / ";
  }
  return out;
}

std::vector<PlacedFigure> placedFrames(const MadeSet& set) {
  std::vector<Frame> frames;
  for (const auto& file : filesOf(set)) frames.push_back(loaded(file));
  const auto registrations = registerFrames(frames, set.reference, AlignMode::Auto, {});
  std::vector<PlacedFigure> out;
  const int w = set.scene->width(), h = set.scene->height();
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (int(i) == set.reference) continue;
    const Registration& r = (*registrations)[i];
    PlacedFigure figure{int(i),
                        0,
                        r.transform.isIdentity(),
                        !r.usable,
                        r.assumed,
                        set.clippedShare(int(i)),
                        set.darkShare(int(i)),
                        std::log2(set.frames[i].exposure / set.frames[std::size_t(set.reference)].exposure),
                        r.residual,
                        r.correlation,
                        r.informative,
                        std::hypot(r.shiftX, r.shiftY)};
    double squares = 0;
    for (int k = 0; k < 25; ++k) {
      const double x = (k % 5) * (w - 1) / 4.0, y = (k / 5) * (h - 1) / 4.0;
      double u, v, tu, tv;
      r.transform.map(x, y, u, v);
      truePlace(set.frames[std::size_t(set.reference)].pose, set.frames[i].pose, w, h, x, y, tu, tv);
      squares += (u - tu) * (u - tu) + (v - tv) * (v - tv);
    }
    figure.error = std::sqrt(squares / 25);
    out.push_back(figure);
  }
  return out;
}

namespace {

constexpr int kBorder = 16;

struct Errors {
  double all = 0, walked = 0;
};
/// Root mean square of log2(found / truth) with the common scale removed; channels below a fiftieth of a pixel's
/// brightest are left out.
Errors errorsOf(const Image<float>& found, const Image<float>& truth, const Image<std::uint8_t>* walked) {
  double sum[2] = {}, squares[2] = {}, n[2] = {};
  for (int y = kBorder; y < truth.height() - kBorder; ++y)
    for (int x = kBorder; x < truth.width() - kBorder; ++x) {
      const float* t = truth.at(x, y);
      const int where = walked ? *walked->at(x, y) : 0;
      if (where > 1) continue;
      for (int c = 0; c < 3; ++c) {
        if (t[c] < 0.02f * std::max({t[0], t[1], t[2]})) continue;
        const double log = std::log2(std::max(1e-9f, found.at(x, y)[c]) / t[c]);
        sum[where] += log, squares[where] += log * log, ++n[where];
      }
    }
  const double mean = sum[0] / n[0];
  Errors e{std::sqrt(squares[0] / n[0] - mean * mean), 0};
  if (n[1] > 0) e.walked = std::sqrt(squares[1] / n[1] - 2 * mean * sum[1] / n[1] + mean * mean);
  return e;
}

/// The set's frames with their true curves and times.
std::vector<Frame> knownFrames(const MadeSet& set) {
  std::vector<Frame> frames;
  const double seconds = set.frames[std::size_t(set.reference)].shot.seconds;
  for (const MadeFrame& made : set.frames) {
    frames.push_back(loaded(made.file));
    Frame& f = frames.back();
    f.settings.time = {seconds * made.exposure / set.frames[std::size_t(set.reference)].exposure};
    f.settings.aperture = {8};
    f.settings.iso = {double(set.camera.iso)};
    f.sensor = {1 / set.camera.fullWell,
                set.camera.readNoise * set.camera.readNoise / (set.camera.fullWell * set.camera.fullWell)};
    if (set.camera.type != FileType::Dng) {
      std::vector<float> table;
      for (int code = 0; code < f.table.size(); ++code)
        table.push_back(float(set.camera.curve.inverse(double(code) / (f.table.size() - 1))));
      f.table = CodeTable(std::move(table));
      f.table.clipFrom = f.table.channel(1)[std::size_t(0.985 * (f.table.size() - 1))];
    }
    f.noise = f.codeError > 0 ? noiseOf(f.table, set.camera.fullWell, set.camera.readNoise) : f.sensor;
  }
  return frames;
}

/// The same weights with everything known: curve, times and places.
double boundOf(const MadeSet& set) {
  const std::vector<Frame> frames = knownFrames(set);
  std::vector<PlacedFrame> placed;
  const int w = set.scene->width(), h = set.scene->height();
  for (std::size_t i = 0; i < frames.size(); ++i) {
    double ox, oy, ax, ay, bx, by;
    const Pose &r = set.frames[std::size_t(set.reference)].pose, &p = set.frames[i].pose;
    truePlace(r, p, w, h, 0, 0, ox, oy);
    truePlace(r, p, w, h, 1, 0, ax, ay);
    truePlace(r, p, w, h, 0, 1, bx, by);
    placed.push_back({&frames[i], {ax - ox, bx - ox, ox, ay - oy, by - oy, oy, 0, 0, 1}, 0});
  }
  MergeOptions options;
  options.reference = set.reference;
  options.motion = MotionMode::Off;
  return errorsOf(mergeRadiance(placed, options, {})->radiance, set.truth(), nullptr).all;
}

} // namespace

namespace {

/// The set with the frame as the reference that the merge took for it.
MadeSet referredTo(const MadeSet& made, const Combined& combined) {
  MadeSet set = made;
  const std::string file = combined.frames[std::size_t(combined.reference)].path;
  for (std::size_t i = 0; i < set.frames.size(); ++i)
    if (set.frames[i].file.string() == file) set.reference = int(i);
  return set;
}

} // namespace

void drawMerge(const MadeSet& made, const std::filesystem::path& png) {
  const auto combined = combineFiles(filesOf(made), {}, {});
  if (!combined) return;
  const MadeSet set = referredTo(made, *combined);
  const Image<float> truth = set.truth();
  const int w = truth.width(), h = truth.height();
  const auto walked = set.walked();
  double sum = 0, n = 0;
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x)
      if (!*walked.at(x, y) && truth.at(x, y)[1] > 0 && combined->radiance.at(x, y)[1] > 0)
        sum += std::log2(combined->radiance.at(x, y)[1] / truth.at(x, y)[1]), ++n;
  const auto scale = float(std::exp2(sum / n));
  Image<std::uint16_t> out(3 * w, h, 3);
  for (int y = 0; y < h; ++y)
    for (int x = 0; x < w; ++x)
      for (int c = 0; c < 3; ++c) {
        const float found = combined->radiance.at(x, y)[c], real = truth.at(x, y)[c] * scale;
        const auto shown = [](float v) {
          return std::uint16_t(65535 *
                               std::clamp(std::pow(std::max(0.f, v) / (std::max(0.f, v) + 0.4f), 0.6f), 0.f, 1.f));
        };
        out.at(x, y)[c] = shown(found);
        out.at(w + x, y)[c] = shown(real);
        out.at(2 * w + x, y)[c] = std::uint16_t(
            65535 * std::clamp(0.5f + 0.25f * std::log2(std::max(1e-6f, found) / std::max(1e-6f, real)), 0.f, 1.f));
      }
  (void)writePng(png, out.view(), 65535, {});
  std::printf("%s\n", verdict(*combined).c_str());
}

namespace {

/// Nobody stands twice, torn or half transparent when the picture shows one moment; which one, the merge may choose.
double errorOfMoment(const Image<float>& found, const std::vector<MadeSet::Moment>& moments, int& moment) {
  constexpr double kTold = 0.5; // a moment of which less can be told does not count as one
  double least = 0, most = 0;
  for (const bool enough : {true, false}) {
    for (int i = 0; i < int(moments.size()); ++i) {
      const MadeSet::Moment& m = moments[std::size_t(i)];
      if (enough ? m.told < kTold : m.told <= most) continue;
      const double error = errorsOf(found, m.light, &m.walked).walked;
      if (!enough || most == 0 || error < least) least = error, moment = i;
      most = m.told;
    }
    if (most > 0) break;
  }
  return least;
}

/// Each frame's light by its true curve and time, in its true place: rendered files alone. NaN beyond the frame, where
/// it clips.
std::vector<Image<float>> framesAlone(const MadeSet& set) {
  std::vector<Image<float>> out;
  if (set.camera.type == FileType::Dng) return out;
  const std::vector<Frame> frames = knownFrames(set);
  const int w = set.scene->width(), h = set.scene->height();
  for (std::size_t k = 0; k < frames.size(); ++k) {
    const Frame& f = frames[k];
    const double clips = f.table.clipFrom;
    out.emplace_back(w, h, 3);
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x) {
        double u, v;
        truePlace(set.frames[std::size_t(set.reference)].pose, set.frames[k].pose, w, h, x, y, u, v);
        float* light = out[k].at(x, y);
        std::fill_n(light, 3, std::numeric_limits<float>::quiet_NaN());
        if (u < 0 || v < 0 || u > w - 1 || v > h - 1) continue;
        const int left = std::clamp(int(u), 0, w - 2), top = std::clamp(int(v), 0, h - 2);
        const double fx = u - left, fy = v - top;
        float corners[4][3];
        float most = 0;
        for (int i = 0; i < 4; ++i) {
          f.linearAt(left + i % 2, top + i / 2, corners[i]);
          most = std::max({most, corners[i][0], corners[i][1], corners[i][2]});
        }
        if (most >= clips) continue;
        for (int c = 0; c < 3; ++c)
          light[c] = float(((1 - fy) * ((1 - fx) * corners[0][c] + fx * corners[1][c]) +
                            fy * ((1 - fx) * corners[2][c] + fx * corners[3][c])) /
                           set.frames[k].exposure);
      }
  }
  return out;
}

/// Every place from the lightest frame that tells it, with nothing left to find.
double floorOf(const std::vector<Image<float>>& alone, const MadeSet::Moment& m) {
  const int w = m.light.width(), h = m.light.height();
  Image<float> best = m.light.clone();
  for (int y = kBorder; y < h - kBorder; ++y)
    for (int x = kBorder; x < w - kBorder; ++x) {
      const int teller = *m.teller.at(x, y);
      if (*m.walked.at(x, y) == 1 && teller >= 0 && std::isfinite(alone[std::size_t(teller)].at(x, y)[0]))
        std::copy_n(alone[std::size_t(teller)].at(x, y), 3, best.at(x, y));
    }
  return errorsOf(best, m.light, &m.walked).walked;
}

/// Of rendered files whose curve was sought.
std::vector<double> curveErrorOf(const Combined& combined, const Camera& camera) {
  std::vector<double> off;
  if (!combined.response || combined.response->table.size() != 256) return off;
  const float* light = combined.response->table.channel(1);
  for (const int code : kCurveCodes)
    off.push_back(std::log2(std::max(1e-9, double(light[code])) / std::max(1e-9, camera.curve.inverse(code / 255.0))));
  std::vector<double> sorted = off;
  std::nth_element(sorted.begin(), sorted.begin() + std::ptrdiff_t(sorted.size() / 2), sorted.end());
  const double middle = sorted[sorted.size() / 2];
  for (double& o : off) o -= middle;
  return off;
}

} // namespace

std::optional<MergedFigure> mergedFigure(const MadeSet& made, bool withBound, bool withFloor) {
  const auto combined = combineFiles(filesOf(made), {}, {});
  if (!combined) {
    std::fprintf(stderr, "%s\n", combined.error().message.c_str());
    return {};
  }
  const MadeSet set = referredTo(made, *combined);
  MergedFigure figure;
  figure.reference = set.reference;
  const auto walked = set.walked();
  const Errors e = errorsOf(combined->radiance, set.truth(), &walked);
  figure.error = e.all;
  const double grey = 0.18 * set.camera.fullWell;
  figure.noise = std::sqrt(grey + set.camera.readNoise * set.camera.readNoise) / grey;
  figure.walked = e.walked;
  if (!set.frames.front().movers.empty()) {
    const std::vector<MadeSet::Moment> moments = set.moments();
    figure.whole = errorOfMoment(combined->radiance, moments, figure.moment);
    if (figure.moment >= 0) {
      const MadeSet::Moment& moment = moments[std::size_t(figure.moment)];
      const std::vector<Image<float>> alone = framesAlone(set);
      if (withFloor && !alone.empty()) figure.floor = floorOf(alone, moment);
      figure.steps = borderSteps(combined->radiance, moment.light, moment.walked, combined->motion, alone);
    }
  }
  figure.curve = curveErrorOf(*combined, set.camera);
  figure.regions = combined->motion.regions;
  figure.leftOut = int(combined->leftOut.size());
  figure.verdict = verdict(*combined);
  if (withBound) figure.bound = boundOf(set);
  return figure;
}

} // namespace ml::zoo
