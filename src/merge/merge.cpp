#include "merge/merge.h"

#include "base/parallel.h"
#include "exposure/ev.h"
#include "merge/consistency.h"
#include "merge/sampling.h"

#include <cmath>
#include <fmt/format.h>

namespace ml {
namespace {

constexpr double kMidTone = 0.18;

struct Source {
  PlacedFrame placed;
  float exposure = 1;  ///< Relative to the reference frame.
  float photon = 0, floor = 0;
  const Image<float>* share = nullptr;
  Image<std::uint8_t> trust;
};

/// Bilinear value of a cell map at a pixel.
float shareAt(const Image<float>* share, int x, int y) {
  if (!share) return 1;
  constexpr float kScale = 1.f / Consistency::kCell;
  const float u = std::clamp((float(x) + 0.5f) * kScale - 0.5f, 0.f, float(share->width() - 1));
  const float v = std::clamp((float(y) + 0.5f) * kScale - 0.5f, 0.f, float(share->height() - 1));
  const int ix = std::min(int(u), share->width() - 2), iy = std::min(int(v), share->height() - 2);
  const float fx = u - float(ix), fy = v - float(iy);
  const float *a = share->at(ix, iy), *b = share->at(ix, iy + 1);
  return (1 - fy) * ((1 - fx) * a[0] + fx * a[1]) + fy * ((1 - fx) * b[0] + fx * b[1]);
}

/// Clipped everywhere: the darkest frame's value, pulled to neutral where a channel stands at its limit.
void clippedColour(const float* linear, const std::array<float, 3>& saturation, float exposure, float* out) {
  const float top = *std::max_element(saturation.begin(), saturation.end());
  float brightest = 0;
  for (int c = 0; c < 3; ++c) brightest = std::max(brightest, linear[c] >= 0.97f * saturation[c] ? top : linear[c]);
  for (int c = 0; c < 3; ++c) out[c] = (linear[c] >= 0.97f * saturation[c] ? brightest : linear[c]) / exposure;
}

class RowMerger {
public:
  RowMerger(const std::vector<Source>& sources, int width) : sources_(sources), width_(width), rows_(sources.size()) {}

  /// Merges row y into `out` (three values a pixel) and returns how many of its pixels are clipped in every frame.
  int merge(int y, float* out) {
    for (std::size_t i = 0; i < sources_.size(); ++i) sampleRow(sources_[i].placed, sources_[i].trust, y, width_, rows_[i]);
    int clipped = 0;
    for (int x = 0; x < width_; ++x) clipped += mergePixel(x, y, out + 3 * std::size_t(x)) ? 0 : 1;
    return clipped;
  }

private:
  bool mergePixel(int x, int y, float* out) {
    float first = 0, firstWeight = 0;
    std::array<float, kMaxFrames> use{};
    for (std::size_t i = 0; i < sources_.size(); ++i) {
      const float trust = rows_[i].trust[x];
      use[i] = trust <= 0 ? 0 : trust * shareAt(sources_[i].share, x, y);
      const float* rgb = &rows_[i].linear[3 * std::size_t(x)];
      first += use[i] * (rgb[0] + rgb[1] + rgb[2]) / 3;
      firstWeight += use[i] * sources_[i].exposure;
    }
    if (firstWeight <= 1e-6f * sources_.front().exposure) return takeDarkest(x, y, out);
    float estimate = first / firstWeight;
    float sum[3], weight = 0;
    for (int round = 0; round < 2; ++round) {
      sum[0] = sum[1] = sum[2] = weight = 0;
      for (std::size_t i = 0; i < sources_.size(); ++i) {
        if (use[i] <= 0) continue;
        const Source& s = sources_[i];
        const float variance = s.photon * std::max(0.f, estimate * s.exposure) + s.floor;
        const float w = use[i] * s.exposure * s.exposure / variance;
        const float* rgb = &rows_[i].linear[3 * std::size_t(x)];
        for (int c = 0; c < 3; ++c) sum[c] += w * rgb[c] / s.exposure;
        weight += w;
      }
      estimate = (sum[0] + sum[1] + sum[2]) / (3 * weight);
    }
    for (int c = 0; c < 3; ++c) out[c] = sum[c] / weight;
    return true;
  }

  /// No frame is trusted here: the darkest that may speak is taken as it is. False when even that is clipped.
  bool takeDarkest(int x, int y, float* out) {
    for (const float least : {0.5f, 0.f})
      for (std::size_t i = 0; i < sources_.size(); ++i) {
        if (rows_[i].trust[x] < 0 || shareAt(sources_[i].share, x, y) < least) continue;
        const Frame& frame = *sources_[i].placed.frame;
        const float* linear = &rows_[i].linear[3 * std::size_t(x)];
        clippedColour(linear, frame.saturation, sources_[i].exposure, out);
        for (int c = 0; c < 3; ++c)
          if (linear[c] >= 0.97f * frame.table.clipFrom * frame.saturation[c]) return false;
        return true;
      }
    out[0] = out[1] = out[2] = 0;
    return false;
  }

  static constexpr std::size_t kMaxFrames = 64;
  const std::vector<Source>& sources_;
  int width_;
  std::vector<RowSamples> rows_;
};

} // namespace

std::optional<std::string> MergeOptions::invalidReason(std::size_t frames) const {
  if (frames < 1 || frames > 64) return "1 to 64 frames can be merged";
  if (reference < 0 || reference >= int(frames)) return "the reference frame is not among the frames";
  return {};
}

Result<MergeResult> mergeRadiance(const std::vector<PlacedFrame>& frames, const MergeOptions& options, const Progress& progress) {
  if (const auto reason = options.invalidReason(frames.size())) return fail(ErrorCode::InvalidArgument, "The frames cannot be merged: " + *reason + ".");
  const Frame& reference = *frames[options.reference].frame;
  for (const auto& placed : frames)
    if (placed.frame->width() != reference.width() || placed.frame->height() != reference.height())
      return fail(ErrorCode::SizeMismatch, fmt::format("`{}` is {} x {} pixels and `{}` is {} x {}; combine only frames of one size.",
                                                       placed.frame->path, placed.frame->width(), placed.frame->height(),
                                                       reference.path, reference.width(), reference.height()));
  progress.at("Look for movement", 0);
  const Consistency consistency = findConsistency(frames, options, progress);
  if (progress.stopRequested()) return stopped();

  std::vector<Source> sources;
  const double unit = relativeExposure(reference.settings) * reference.midTone;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const Frame& f = *frames[i].frame;
    const double light = relativeExposure(f.settings) * f.midTone;
    sources.push_back({frames[i], float(light / unit), float(f.noise.photon), float(f.noise.floor),
                       consistency.share.empty() ? nullptr : &consistency.share[i], trustMap(f)});
  }
  MergeResult result;
  const int width = reference.width(), height = reference.height();
  result.radiance = Image<float>(width, height, 3);
  std::vector<int> clipped(bandCount(height));
  std::atomic<int> rowsDone{0};
  const Matrix3& m = reference.toRec709;
  float matrix[9];
  for (int i = 0; i < 9; ++i) matrix[i] = float(m[i] * kMidTone / reference.midTone);
  const bool finished = forEachBand(height, progress.stop, [&](const Band& band) {
    RowMerger merger(sources, width);
    for (int y = band.begin; y < band.end; ++y) {
      float* row = result.radiance.row(y);
      clipped[band.index] += merger.merge(y, row);
      for (int x = 0; x < width; ++x) {
        float* p = row + 3 * std::size_t(x);
        const float r = p[0], g = p[1], b = p[2];
        for (int c = 0; c < 3; ++c) p[c] = matrix[3 * c] * r + matrix[3 * c + 1] * g + matrix[3 * c + 2] * b;
      }
    }
    progress.at("Merge", double(rowsDone += band.end - band.begin) / height);
  });
  if (!finished) return stopped();
  for (const int count : clipped) result.clippedShare += count;
  result.clippedShare /= double(width) * height;
  result.motion = consistency.report;
  result.ev100OfUnit = ev100(reference.settings).value - std::log2(kMidTone);
  return result;
}

} // namespace ml
