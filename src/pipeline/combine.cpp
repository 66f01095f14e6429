// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/combine.h"

#include "base/large_memory.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "image/colour.h"
#include "pipeline/half_stop.h"
#include "pipeline/noisier.h"
#include "pipeline/read_set.h"
#include "pipeline/sphere_frames.h"
#include "pipeline/steps.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

namespace ml {
namespace fs = std::filesystem;
namespace {

constexpr double kLeastMisplacement = 0.04,
                 kMostMisplacement = 0.25; ///< Pixels; what is left over also holds noise and things that moved.

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

/// What `work` says of each frame, several at a time.
std::vector<double> ofEach(const std::vector<Frame>& frames, double (*work)(const Frame&)) {
  std::vector<double> out(frames.size());
  forEachBand(
      int(frames.size()),
      [&](const Band& band) { out[std::size_t(band.begin)] = work(frames[std::size_t(band.begin)]); }, 1);
  return out;
}

int chooseReference(const std::vector<Frame>& frames, const CombineOptions& options) {
  const auto shares = ofEach(frames, wellExposedShare);
  int best = 0;
  double most = -1;
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (const double share = shares[i]; share > most + 0.02 && !isLent(frames[i], options)) {
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

/// Of another set they are not.
void nameLit(const std::vector<fs::path>& lit, Combined& out) {
  for (CombinedFrame& frame : out.frames)
    if (std::find(lit.begin(), lit.end(), frame.path) != lit.end()) {
      frame.lent = false, frame.flash = true, frame.excludedShare = 0;
      out.remarks.push_back(phrase("`{}` was lit by flash: it shows what every other frame clips, and nothing else.",
                                   frame.path.filename().string()));
    }
}

Result<int> referenceOf(const std::vector<Frame>& frames, const std::vector<fs::path>& files,
                        const CombineOptions& options) {
  if (!options.reference) return chooseReference(frames, options);
  const auto wanted = files[std::size_t(*options.reference)].string();
  const auto found = std::find_if(frames.begin(), frames.end(), [&](const Frame& f) { return f.path == wanted; });
  if (found == frames.end())
    return fail(ErrorCode::InvalidArgument, phrase("The reference frame `{}` cannot be used; choose another.", wanted));
  return int(found - frames.begin());
}

constexpr double kOtherCurve =
    0.25; ///< Stops; a set whose curve differs more from the kept one was rendered in another way.

void readThrough(const CodeTable& table, std::vector<Frame>& frames) {
  const double midTone =
      table.channel(1)[std::lround(0.4613561 * (table.size() - 1))]; // the code of 0.18 stays what it was
  for (Frame& frame : frames) {
    frame.table = table;
    frame.midTone = float(midTone);
    frame.noise = noiseOf(frame.table, 1 / frame.sensor.photon, std::sqrt(frame.sensor.floor) / frame.sensor.photon);
  }
}

/// Of the placed frames the set's own, and their places among all.
struct OwnPlaced {
  std::vector<PlacedFrame> frames;
  std::vector<std::size_t> index;
};
OwnPlaced ownPlaced(const std::vector<PlacedFrame>& placed, const Combined& out) {
  OwnPlaced own;
  for (std::size_t i = 0; i < placed.size(); ++i)
    if (!out.frames[i].lent) own.frames.push_back(placed[i]), own.index.push_back(i);
  return own;
}

/// The settings of each frame give way to what its pixels say of its light, as far as they know it.
void useLight(std::vector<Frame>& frames, const OwnPlaced& own, const Photometry& found, Combined& out) {
  const auto reference = std::find(own.index.begin(), own.index.end(), std::size_t(out.reference));
  // The unit of light stays that of its settings.
  const double unit = found.light[std::size_t(reference - own.index.begin())].stops;
  for (std::size_t i = 0; i < own.frames.size(); ++i) {
    const double stops = out.frames[own.index[i]].lightStops = found.light[i].stops - unit;
    for (Frame& frame : frames)
      if (&frame == own.frames[i].frame) frame.settings.time.value *= std::exp2(stops);
  }
}

/// Curves that are only assumed give way to what the set itself says, and where it says too little to what earlier sets
/// of the camera said. Exposures that are only stated give way to what the pixels know better.
void usePhotometry(std::vector<Frame>& frames, const std::vector<PlacedFrame>& placed, const CombineOptions& options,
                   Combined& out) {
  const bool known = std::all_of(frames.begin(), frames.end(), [](const Frame& f) { return f.exposureKnown; });
  const bool assumed = std::all_of(frames.begin(), frames.end(), [](const Frame& f) { return f.curveAssumed; });
  const bool linear = std::none_of(frames.begin(), frames.end(), [](const Frame& f) { return f.curveAssumed; });
  Photometry found;
  const OwnPlaced own = ownPlaced(placed, out);
  if (known && (assumed || linear) && own.frames.size() > 1) {
    found = findPhotometry(own.frames);
    useLight(frames, own, found, out);
    out.response = found.response;
  }
  if (!assumed) return;
  const std::string camera = frames.front().metadata.camera;
  const bool oneCamera =
      std::all_of(frames.begin(), frames.end(), [&](const Frame& f) { return f.metadata.camera == camera; });
  const CurveShelf shelf(options.curves);
  if (!options.curves.empty() && oneCamera) out.keptCurve = shelf.find(camera);
  if (!out.response && out.keptCurve) {
    const KeptCurve& kept = *out.keptCurve;
    const int size = frames.front().table.size();
    out.response = Response{kept.start,        tableOf(kept, size), true, kept.samples,
                            kept.disagreement, kept.disagreement,   0,    size - 1};
    out.curveFromShelf = true;
    out.remarks.push_back(
        phrase("This set says too little of the camera's curve; the one kept from {} earlier {} is used.", kept.sets,
               kept.sets == 1 ? phrase("set") : phrase("sets")));
  } else if (out.response && out.keptCurve && frames.front().table.size() == 256) {
    const double off = differenceOf(out.response->table, tableOf(*out.keptCurve, 256), out.response->lowestCode,
                                    out.response->highestCode);
    if (off > kOtherCurve)
      out.remarks.push_back(phrase("The curve of this set differs from the one kept for the camera by up to "
                                   "{:.1f} stop: another picture style? The set's own is used.",
                                   off));
  }
  if (out.response && !out.curveFromShelf && !options.curves.empty() && oneCamera && options.edge == 0)
    if (const auto kept = shelf.keep(camera, *out.response); !kept)
      out.remarks.push_back(phrase("The camera's curve cannot be kept: {}", kept.error().message));
  if (out.response && out.response->changed) readThrough(out.response->table, frames);
}

Result<MergeResult> mergeBy(const CombineOptions& options, const std::vector<PlacedFrame>& placed,
                            const std::vector<fs::path>& lit, const Combined& out, const Progress& progress) {
  const int reference = out.reference;
  MergeOptions merging;
  for (std::size_t i = 0; i < out.frames.size(); ++i)
    if (out.frames[i].lent) {
      merging.lent.push_back(int(i));
      if (std::find(lit.begin(), lit.end(), out.frames[i].path) != lit.end()) merging.filling.push_back(int(i));
    }
  merging.motion = options.motion;
  merging.reference = reference;
  merging.referenceFree = !options.reference && options.method == CombineMethod::Radiance;
  merging.emptyScene = options.emptyScene;
  merging.choices = options.choices;
  switch (options.method) {
  case CombineMethod::Fusion: return fuseExposures(placed, merging, {}, progress);
  case CombineMethod::ToneRange: {
    const OwnPlaced own = ownPlaced(placed, out);
    merging.lent.clear(), merging.filling.clear();
    merging.reference = int(std::find(own.index.begin(), own.index.end(), std::size_t(reference)) - own.index.begin());
    return joinByTone(own.frames, merging, options.toneRange, progress);
  }
  case CombineMethod::Darker: return joinDarker(placed, merging, {options.darker}, progress);
  case CombineMethod::Single:
    return mergeRadiance({placed[std::size_t(reference)]}, {0, MotionMode::Off, false, {}, {}}, progress);
  case CombineMethod::Positions:
  case CombineMethod::Radiance: break;
  }
  return mergeRadiance(placed, merging, progress);
}

/// Moving things are owned by another frame than was aligned to: places are told on its grid.
void referTo(int reference, std::vector<PlacedFrame>& placed, Combined& out) {
  placed = seenFrom(std::move(placed), reference, out.reference);
  for (std::size_t i = 0; i < placed.size(); ++i) out.frames[i].registration.transform.h = placed[i].toFrame;
  std::swap(out.frames[std::size_t(reference)].registration.residual,
            out.frames[std::size_t(out.reference)].registration.residual);
  out.reference = reference;
}

/// What each half stop of the scene's light is made of.
std::vector<StopRecord> stopsOf(const MergeResult& merged, std::size_t frames) {
  struct Bin {
    std::vector<float> snr;
    std::vector<int> by;
  };
  constexpr int kBins = 80;
  std::vector<Bin> bins(kBins);
  std::size_t all = 0;
  for (Bin& bin : bins) bin.by.resize(frames, 0);
  for (std::size_t i = 0; i < merged.source.size(); ++i) {
    const std::uint8_t source = merged.source.data()[i];
    const float light = merged.light.data()[i];
    if (source == kNoSource || !(light > std::numeric_limits<float>::min())) continue;
    Bin& bin = bins[std::size_t(std::clamp(halfStop(light) + kBins / 2, 0, kBins - 1))];
    ++bin.by[source];
    bin.snr.push_back(merged.snr.data()[i]);
    ++all;
  }
  std::vector<StopRecord> out;
  for (int i = 0; i < kBins; ++i) {
    Bin& bin = bins[std::size_t(i)];
    if (bin.snr.size() * 5000 < all || bin.snr.empty()) continue;
    StopRecord record{merged.ev100OfUnit + (i - kBins / 2 + 0.5) / 2, double(bin.snr.size()) / double(all), 0, {}};
    for (const int count : bin.by) record.frames.push_back(double(count) / double(bin.snr.size()));
    std::nth_element(bin.snr.begin(), bin.snr.begin() + std::ptrdiff_t(bin.snr.size() / 2), bin.snr.end());
    record.snr = bin.snr[bin.snr.size() / 2];
    out.push_back(std::move(record));
  }
  return out;
}

/// Frames that are lent follow the set's own in the order they were lent: who takes or gives one leaves the numbers of
/// the others as they are.
void putLentLast(std::vector<Frame>& frames, std::vector<Registration>& registrations, const CombineOptions& options,
                 int& reference) {
  if (options.lentFiles.empty()) return;
  std::vector<std::size_t> order(frames.size());
  std::iota(order.begin(), order.end(), 0);
  const auto rank = [&](std::size_t i) {
    const auto& lent = options.lentFiles;
    const auto at = std::find(lent.begin(), lent.end(), frames[i].path);
    return at == lent.end() ? std::ptrdiff_t(-1) : at - lent.begin();
  };
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return rank(a) < rank(b); });
  std::vector<Frame> sorted;
  std::vector<Registration> placed;
  for (const std::size_t i : order) placed.push_back(registrations[i]);
  reference = int(std::find(order.begin(), order.end(), std::size_t(reference)) - order.begin());
  for (const std::size_t i : order) sorted.push_back(std::move(frames[i]));
  frames = std::move(sorted);
  registrations = std::move(placed);
}

/// The frames that can be used, where they lie; the others are left out with their reason. `out.reference` counts among
/// them afterwards.
Result<std::vector<PlacedFrame>> placeFrames(const BracketSet& set, const std::vector<Registration>& registrations,
                                             const CombineOptions& options, Combined& out) {
  const auto clipped = ofEach(set.frames, clippedShare);
  std::vector<PlacedFrame> placed;
  std::size_t lost = 0;
  int mergeReference = 0;
  for (std::size_t i = 0; i < set.frames.size(); ++i) {
    const Registration& r = registrations[i];
    if (!r.usable) {
      out.leftOut.push_back({set.frames[i].path, {ErrorCode::CannotAlign, "`" + set.frames[i].path + "`: " + r.note}});
      ++lost;
      continue;
    }
    if (int(i) == out.reference) mergeReference = int(placed.size());
    placed.push_back({&set.frames[i], r.transform.h, std::clamp(r.residual, kLeastMisplacement, kMostMisplacement)});
    out.frames.push_back({set.frames[i].path, set.frames[i].settings, r, 0, clipped[i], !set.frames[i].exposureKnown,
                          isLent(set.frames[i], options)});
  }
  if (placed.size() < 2 && lost > 0)
    return fail(
        ErrorCode::CannotAlign,
        phrase("The {} frames do not show the same view; group them again or shoot the set again.", set.frames.size()));
  out.reference = mergeReference;
  return placed;
}

Metered meteredOfOwn(const std::vector<PlacedFrame>& placed, ImageView<const float> radiance, const Combined& out) {
  const OwnPlaced own = ownPlaced(placed, out);
  Metered metered = meteredOf(own.frames, radiance);
  if (metered.frame >= 0) metered.frame = int(own.index[std::size_t(metered.frame)]);
  return metered;
}

/// What merging gave, and what follows from it.
void takeMerged(MergeResult merged, const std::vector<PlacedFrame>& placed, const CombineOptions& options, int margin,
                Combined& out) {
  for (std::size_t i = 0; i < std::min(out.frames.size(), merged.motion.excludedShare.size()); ++i)
    out.frames[i].excludedShare = merged.motion.excludedShare[i];
  out.motion = std::move(merged.motion);
  out.ev100OfUnit = merged.ev100OfUnit;
  out.clippedShare = merged.clippedShare;
  const int width = merged.radiance.width(), height = merged.radiance.height();
  out.fullWidth = width;
  out.fullHeight = height;
  out.crop = options.crop == CropMode::Overlap ? overlapOf(out.frames, width, height) : Roi{0, 0, width, height};
  if (margin > 0) out.crop = {margin, margin, width - 2 * margin, height - 2 * margin};
  if (options.method == CombineMethod::Radiance || options.method == CombineMethod::Darker)
    inParallel([&] { out.stops = stopsOf(merged, placed.size()); },
               [&] { out.noisier = noisierPlaces(merged.snr, merged.light, out.crop); });
  if (options.method == CombineMethod::Radiance || options.method == CombineMethod::Darker ||
      options.method == CombineMethod::ToneRange || options.method == CombineMethod::Single)
    out.metered = meteredOfOwn(placed, merged.radiance.view(), out);
  out.source = std::move(merged.source);
  out.snr = std::move(merged.snr);
  out.radiance = std::move(merged.radiance);
  if (out.crop != Roi{0, 0, width, height}) out.radiance.crop(out.crop);
}

} // namespace

Result<Combined> combineFiles(std::vector<fs::path> files, const CombineOptions& asked, const Progress& progress) {
  CombineOptions options = asked;
  const MemoryReuse reuse;
  if (files.empty())
    return fail(ErrorCode::TooFewFrames, phrase("There is no frame to combine; name the files or a folder of them."));
  if (options.method == CombineMethod::Positions)
    return fail(ErrorCode::InvalidArgument, phrase("One set holds one position; join several with `assemble`."));
  std::sort(files.begin(), files.end());
  if (options.reference && (*options.reference < 0 || *options.reference >= int(files.size())))
    return fail(ErrorCode::InvalidArgument, phrase("There is no frame {} to refer to; the frames count from 0 to {}.",
                                                   *options.reference, files.size() - 1));
  Combined out;
  out.method = options.method;
  out.aligned = options.align != AlignMode::Off;
  auto read = readSet(files, options, progress.part(0, 0.4), out);
  if (!read) return passOn(read.error());
  BracketSet& set = read->set;
  const OwnFrames own = ownFrames(set.frames, options);
  const Steps steps = stepsOf(own);
  if (!options.evenSo)
    if (auto sound = checkSteps(own, steps); !sound) return passOn(sound.error());
  const auto reference = referenceOf(set.frames, files, options);
  if (!reference) return passOn(reference.error());
  out.reference = *reference;
  const AlignMode align = options.method == CombineMethod::Single ? AlignMode::Off : options.align;
  auto registrations = registerFrames(set.frames, out.reference, align, progress.part(0.4, 0.6));
  if (!registrations) return passOn(registrations.error());

  putLentLast(set.frames, *registrations, options, out.reference);
  auto placed = placeFrames(set, *registrations, options, out);
  if (!placed) return passOn(placed.error());
  progress.at(phrase("Find the response"), 0.6);
  if (options.recoverResponse && options.method != CombineMethod::Fusion)
    usePhotometry(set.frames, *placed, options, out);
  for (auto& doubt : doubtfulSteps(ownFrames(set.frames, options), steps)) out.remarks.push_back(std::move(doubt));
  if (progress.stopRequested()) return stopped();
  auto merged = mergeBy(options, *placed, read->lit, out, progress.part(0.65, 1));
  if (!merged) return passOn(merged.error());
  if (options.method == CombineMethod::Radiance && merged->reference != out.reference)
    referTo(merged->reference, *placed, out);
  takeMerged(std::move(*merged), *placed, options, read->margin, out);
  nameLit(read->lit, out);
  return out;
}

} // namespace ml
