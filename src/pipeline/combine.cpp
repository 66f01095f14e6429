#include "pipeline/combine.h"

#include "base/parallel.h"
#include "exposure/marks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// A part of the whole task's progress bar.
Progress part(const Progress& whole, double from, double to) {
  return {whole.stop, [whole, from, to](const std::string& stage, double f) { whole.at(stage, from + (to - from) * f); }};
}

std::vector<Result<Frame>> readAll(const std::vector<fs::path>& files, const Progress& progress) {
  std::vector<Result<Frame>> frames;
  for (std::size_t i = 0; i < files.size(); ++i) frames.emplace_back(stopped());
  std::atomic<int> done{0};
  forEachBand(int(files.size()), progress.stop, [&](const Band& band) {
    frames[band.begin] = loadFrame(files[band.begin]);
    progress.at("Read frames", double(++done) / double(files.size()));
  }, 1);
  return frames;
}

/// Share of pixels neither near clipping nor in the noise, on every eighth pixel.
double wellExposedShare(const Frame& frame) {
  int good = 0, all = 0;
  for (int y = 4; y < frame.height(); y += 8)
    for (int x = 4; x < frame.width(); x += 8) {
      float rgb[3], level = 0;
      frame.linearAt(x, y, rgb);
      for (int c = 0; c < 3; ++c) level = std::max(level, rgb[c] / frame.saturation[c]);
      good += level > 0.01f && level < 0.9f;
      ++all;
    }
  return all ? double(good) / all : 0;
}

int chooseReference(const std::vector<Frame>& frames) {
  int best = 0;
  double most = -1;
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (const double share = wellExposedShare(frames[i]); share > most + 0.02) {
      most = share;
      best = int(i);
    }
  return best;
}

/// Largest rectangle, shrunk side by side from the whole, that every frame covers.
Roi overlapOf(const std::vector<CombinedFrame>& frames, int width, int height) {
  double left = 0, top = 0, right = width - 1, bottom = height - 1;
  for (const auto& frame : frames) {
    const Transform back{inverse(frame.registration.transform.h)};
    if (frame.registration.transform.isIdentity()) continue;
    const auto corner = [&](double x, double y, double& u, double& v) { back.map(x, y, u, v); };
    double u, v;
    constexpr double kKernel = 3; // the interpolation needs neighbours
    for (const double y : {0.0, height - 1.0}) {
      corner(kKernel, y, u, v), left = std::max(left, u);
      corner(width - 1 - kKernel, y, u, v), right = std::min(right, u);
    }
    for (const double x : {0.0, width - 1.0}) {
      corner(x, kKernel, u, v), top = std::max(top, v);
      corner(x, height - 1 - kKernel, u, v), bottom = std::min(bottom, v);
    }
  }
  const int x = int(std::ceil(left)), y = int(std::ceil(top));
  return {x, y, std::max(1, int(std::floor(right)) - x + 1), std::max(1, int(std::floor(bottom)) - y + 1)};
}

Image<float> cropped(const Image<float>& image, const Roi& roi) {
  Image<float> out(roi.width, roi.height, 3);
  const auto view = image.view().crop(roi);
  for (int y = 0; y < roi.height; ++y) std::copy_n(view.row(y), roi.width * 3, out.row(y));
  return out;
}

std::string spelledCount(std::size_t n) {
  static const char* const words[] = {"No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine"};
  return n < 10 ? words[n] : std::to_string(n);
}

} // namespace

Result<Combined> combineFiles(std::vector<fs::path> files, const CombineOptions& options, const Progress& progress) {
  if (files.empty()) return fail(ErrorCode::TooFewFrames, "There is no frame to combine; name the files or a folder of them.");
  std::sort(files.begin(), files.end());
  if (options.reference && (*options.reference < 0 || *options.reference >= int(files.size())))
    return fail(ErrorCode::InvalidArgument, fmt::format("There is no frame {} to refer to; the frames count from 0 to {}.", *options.reference, files.size() - 1));
  Combined out;
  auto read = readAll(files, part(progress, 0, 0.4));
  if (progress.stopRequested()) return stopped();
  BracketSet set;
  for (std::size_t i = 0; i < files.size(); ++i) {
    if (read[i]) set.frames.push_back(std::move(*read[i]));
    else out.leftOut.push_back({files[i], read[i].error()});
  }
  if (set.frames.empty()) return passOn(out.leftOut.front().reason);
  set.sortByExposure();
  for (const Frame& frame : set.frames)
    if (frame.width() != set.frames[0].width() || frame.height() != set.frames[0].height())
      return fail(ErrorCode::SizeMismatch, fmt::format("`{}` has {} x {} pixels and `{}` has {} x {}; combine only frames of one size.",
                                                       set.frames[0].path, set.frames[0].width(), set.frames[0].height(), frame.path,
                                                       frame.width(), frame.height()));
  out.reference = chooseReference(set.frames);
  if (options.reference) {
    const auto wanted = files[*options.reference].string();
    const auto found = std::find_if(set.frames.begin(), set.frames.end(), [&](const Frame& f) { return f.path == wanted; });
    if (found == set.frames.end()) return fail(ErrorCode::InvalidArgument, "The reference frame `" + wanted + "` cannot be read; choose another.");
    out.reference = int(found - set.frames.begin());
  }
  auto registrations = registerFrames(set.frames, out.reference, options.align, part(progress, 0.4, 0.65));
  if (!registrations) return passOn(registrations.error());

  std::vector<PlacedFrame> placed;
  MergeOptions merging;
  merging.motion = options.motion;
  std::size_t lost = 0;
  for (std::size_t i = 0; i < set.frames.size(); ++i) {
    const Registration& r = (*registrations)[i];
    if (!r.usable) {
      out.leftOut.push_back({set.frames[i].path, {ErrorCode::CannotAlign, "`" + set.frames[i].path + "`: " + r.note}});
      ++lost;
      continue;
    }
    if (int(i) == out.reference) merging.reference = int(placed.size());
    placed.push_back({&set.frames[i], r.transform.h});
    out.frames.push_back({set.frames[i].path, set.frames[i].settings, r, 0});
  }
  if (placed.size() < 2 && lost > 0)
    return fail(ErrorCode::CannotAlign, fmt::format("The {} frames do not show the same view; group them again or shoot the set again.", set.frames.size()));
  out.reference = merging.reference;
  auto merged = mergeRadiance(placed, merging, part(progress, 0.65, 1));
  if (!merged) return passOn(merged.error());
  for (std::size_t i = 0; i < out.frames.size(); ++i) out.frames[i].excludedShare = merged->motion.excludedShare[i];
  out.motionRegions = merged->motion.regions;
  out.ev100OfUnit = merged->ev100OfUnit;
  out.clippedShare = merged->clippedShare;
  const int width = merged->radiance.width(), height = merged->radiance.height();
  out.crop = options.crop == CropMode::Overlap ? overlapOf(out.frames, width, height) : Roi{0, 0, width, height};
  out.radiance = out.crop == Roi{0, 0, width, height} ? std::move(merged->radiance) : cropped(merged->radiance, out.crop);
  return out;
}

std::string verdict(const Combined& c) {
  double furthest = 0;
  for (const auto& frame : c.frames) furthest = std::max(furthest, frame.registration.transform.reach(c.crop.width, c.crop.height));
  std::string text = c.frames.size() == 1
                         ? fmt::format("One frame at {} is taken as it is", print(c.frames[0].settings.time))
                         : fmt::format("{} frames from {} to {} are combined", spelledCount(c.frames.size()),
                                       print(c.frames.front().settings.time), print(c.frames.back().settings.time));
  if (c.frames.size() > 1) text += furthest > 0 ? fmt::format(", moved by up to {:.1f} px", furthest) : ", none had moved";
  if (c.motionRegions > 0)
    text += fmt::format("; {} {} moved and {} from one frame", c.motionRegions, c.motionRegions == 1 ? "place" : "places",
                        c.motionRegions == 1 ? "is taken" : "are taken");
  text += c.clippedShare >= 0.0005 ? fmt::format("; {:.1f} % of the picture is clipped in every frame", 100 * c.clippedShare) : "; nothing is clipped";
  text += ".";
  if (!c.leftOut.empty()) text += fmt::format(" {} left out: {}", c.leftOut.size() == 1 ? "One file is" : fmt::format("{} files are", c.leftOut.size()), c.leftOut.front().reason.message);
  return text;
}

} // namespace ml
