// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/read_set.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "capture/turned_frame.h"
#include "ingest/estimate_exposure.h"
#include "pipeline/sphere_frames.h"

#include <algorithm>
#include <atomic>

namespace ml {
namespace fs = std::filesystem;

bool isLent(const Frame& frame, const CombineOptions& options) {
  return std::find(options.lentFiles.begin(), options.lentFiles.end(), frame.path) != options.lentFiles.end();
}

/// The set's own, darkest first.
OwnFrames ownFrames(const std::vector<Frame>& frames, const CombineOptions& options) {
  OwnFrames own;
  for (const Frame& frame : frames)
    if (!isLent(frame, options)) own.push_back(&frame);
  return own;
}

namespace {

std::vector<Result<Frame>> readAll(const std::vector<fs::path>& files, int edge, const Progress& progress) {
  std::vector<Result<Frame>> frames;
  for (std::size_t i = 0; i < files.size(); ++i) frames.emplace_back(stopped());
  // The largest first: they take longest, and the last one should not be waited for.
  std::vector<std::pair<std::uintmax_t, std::size_t>> order;
  for (std::size_t i = 0; i < files.size(); ++i) {
    std::error_code error;
    const auto size = fs::file_size(files[i], error);
    order.emplace_back(error ? 0 : size, i);
  }
  std::stable_sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
  std::atomic<int> done{0};
  forEachBand(
      int(files.size()), progress.stop,
      [&](const Band& band) {
        const std::size_t i = order[std::size_t(band.begin)].second;
        frames[i] = edge > 0 ? loadSmallFrame(files[i], edge, Unsaid::Allowed) : loadFrame(files[i], Unsaid::Allowed);
        progress.at(phrase("Read frames"), double(++done) / double(files.size()));
      },
      1);
  return frames;
}

/// Frames read, sorted by exposure; those that cannot be used are named in `out.leftOut`.
Result<std::vector<Frame>> readWanted(const std::vector<fs::path>& files, const CombineOptions& options,
                                      const Progress& progress, Combined& out) {
  std::vector<fs::path> wanted;
  for (const auto& file : files)
    if (std::find(options.unused.begin(), options.unused.end(), file.filename().string()) == options.unused.end())
      wanted.push_back(file);
  if (wanted.empty()) return fail(ErrorCode::TooFewFrames, phrase("Every frame is left out; use at least one."));
  wanted.insert(wanted.end(), options.lentFiles.begin(), options.lentFiles.end());
  auto read = readAll(wanted, options.edge, progress);
  if (progress.stopRequested()) return stopped();
  std::vector<Frame> frames;
  for (std::size_t i = 0; i < wanted.size(); ++i) {
    if (!read[i]) {
      out.leftOut.push_back({wanted[i], read[i].error()});
      continue;
    }
    if (const auto typed = options.seconds.find(wanted[i].filename().string());
        typed != options.seconds.end() && !isLent(*read[i], options)) {
      read[i]->settings.time = {typed->second};
      read[i]->exposureKnown = true;
    }
    frames.push_back(std::move(*read[i]));
  }
  if (std::all_of(frames.begin(), frames.end(), [&](const Frame& f) { return isLent(f, options); }))
    return passOn(out.leftOut.front().reason);
  return frames;
}

/// Frames of the set's own that were lit by a flash, unlike the others.
std::vector<fs::path> litApartFrom(const std::vector<Frame>& frames, const CombineOptions& options) {
  std::vector<fs::path> lit;
  std::size_t all = 0;
  for (const Frame& frame : frames) {
    if (isLent(frame, options)) continue;
    ++all;
    if (frame.metadata.flash) lit.push_back(frame.path);
  }
  return litApart(lit.size(), all) ? lit : std::vector<fs::path>{};
}

/// Frames of the most common size; the others are left out when two or more remain.
Result<void> keepOneSize(std::vector<Frame>& frames, Combined& out) {
  const auto same = [&](const Frame& a, const Frame& b) { return a.width() == b.width() && a.height() == b.height(); };
  std::size_t best = 0, most = 0;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const auto count =
        std::size_t(std::count_if(frames.begin(), frames.end(), [&](const Frame& f) { return same(f, frames[i]); }));
    if (count > most) most = count, best = i;
  }
  if (most == frames.size()) return {};
  const auto odd = std::find_if(frames.begin(), frames.end(), [&](const Frame& f) { return !same(f, frames[best]); });
  const std::string reason =
      phrase("`{}` has {} x {} pixels and `{}` has {} x {}; combine only frames of one size.", frames[best].path,
             frames[best].width(), frames[best].height(), odd->path, odd->width(), odd->height());
  if (most < 2 || 2 * most <= frames.size()) return fail(ErrorCode::SizeMismatch, reason);
  const int width = frames[best].width(), height = frames[best].height();
  std::vector<Frame> kept;
  for (auto& frame : frames) {
    if (frame.width() == width && frame.height() == height)
      kept.push_back(std::move(frame));
    else
      out.leftOut.push_back(
          {frame.path,
           {ErrorCode::SizeMismatch, phrase("`{}` has {} x {} pixels and the others have {} x {}; it is left out.",
                                            frame.path, frame.width(), frame.height(), width, height)}});
  }
  frames = std::move(kept);
  return {};
}

/// Exposures that the files do not say are estimated; those that contradict the pixels are remarked on.
void settleExposures(std::vector<Frame>& frames, Combined& out) {
  const auto silent = std::count_if(frames.begin(), frames.end(), [](const Frame& f) { return !f.exposureKnown; });
  if (silent > 0) {
    const auto one = std::find_if(frames.begin(), frames.end(), [](const Frame& f) { return !f.exposureKnown; });
    const std::string file = one->path;
    if (frames.size() == 1)
      out.remarks.push_back(phrase("The file does not say how long it was exposed; its light is only relative."));
    else if (!estimateExposures(frames))
      out.remarks.push_back(phrase("The files do not say how long they were exposed, and some share too few tones to "
                                   "tell from the picture: type the times."));
    else if (silent == 1)
      out.remarks.push_back(phrase("`{}` does not say how long it was exposed; its step is estimated from the picture. "
                                   "Type the time if you know it.",
                                   file));
    else
      out.remarks.push_back(phrase("The files do not say how long they were exposed; the steps between them are "
                                   "estimated from the picture. Type the times if you know them."));
  }
}

} // namespace

Result<ReadSet> readSet(const std::vector<fs::path>& files, CombineOptions& options, const Progress& progress,
                        Combined& out) {
  auto read = readWanted(files, options, progress.part(0, 0.95), out);
  if (!read) return passOn(read.error());
  ReadSet whole;
  BracketSet& set = whole.set;
  set.frames = std::move(*read);
  whole.lit = litApartFrom(set.frames, options);
  // They stand by, as frames do that are lent.
  options.lentFiles.insert(options.lentFiles.end(), whole.lit.begin(), whole.lit.end());
  for (const std::size_t i : turnAlike(set.frames))
    out.remarks.push_back(phrase("`{}` says that the camera was held another way than for the others; it is turned "
                                 "like them.",
                                 set.frames[i].path));
  if (auto sized = keepOneSize(set.frames, out); !sized) return passOn(sized.error());
  if (options.sphere.value_or(true))
    if (const auto pair = drawAsSpheres(set.frames, progress.part(0.95, 1))) {
      if (progress.stopRequested()) return stopped();
      out.sphere = true;
      out.remarks.push_back(phrase("The frames show two fisheye circles of {:.0f} degrees; they were laid on a sphere, "
                                   "with {:.1f} pixels left between them where both look.",
                                   2 * pair->widest / kDegree, pair->residual));
    }
  out.sphere = out.sphere || options.sphere.value_or(showsAllDirections(set.frames[set.frames.size() / 2]));
  whole.margin = out.sphere ? addSphereMargins(set.frames) : 0;
  settleExposures(set.frames, out);
  set.sortByExposure();
  return whole;
}

} // namespace ml
