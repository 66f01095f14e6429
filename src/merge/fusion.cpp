#include "merge/fusion.h"

#include "base/parallel.h"
#include "base/vector_clones.h"
#include "exposure/ev.h"
#include "merge/laplacian.h"
#include "merge/read_placed.h"

#include <bit>
#include <cmath>

namespace ml {
namespace {

constexpr float kTiny = 1e-12f; // as in the paper's own code: where nobody has a say all have the same

/// exp(x) for x <= 0, relative error below 2e-5: exponent bits and a polynomial for the rest.
[[gnu::always_inline]] inline float expOfNegative(float x) {
  const float t = std::max(x * 1.44269504f, -120.f);
  const float whole = float(int(t)) - 1, f = t - whole; // 0 < f <= 1... of 2^f
  const float p = 1 + f * (0.693147f + f * (0.240227f + f * (0.0555041f + f * (0.00961813f + f * 0.00133336f))));
  return p * std::bit_cast<float>(std::uint32_t(int(whole) + 127) << 23);
}

/// Table from linear light to sRGB codes 0..1, by the upper bits of the float: within 1e-4.
class Encoder {
public:
  Encoder() {
    for (int i = 0; i <= kSteps; ++i) table_[std::size_t(i)] = float(srgbEncode(double(i) * i / (double(kSteps) * kSteps)));
  }
  /// Entries are spaced by the square root of light.
  void row(const float* linear, float gain, int n, float* out) const { encode(linear, gain, table_.data(), n, out); }

private:
  static constexpr int kSteps = 4096;
  ML_VECTOR_CLONES static void encode(const float* linear, float gain, const float* table, int n, float* __restrict out) {
    for (int i = 0; i < n; ++i) {
      const float at = std::sqrt(std::min(std::max(linear[i] * gain, 0.f), 1.f)) * kSteps;
      const int k = std::min(int(at), kSteps - 1);
      out[i] = table[k] + (at - float(k)) * (table[k + 1] - table[k]);
    }
  }
  std::vector<float> table_ = std::vector<float>(kSteps + 1);
};

ML_VECTOR_CLONES void interleave(const float* r, const float* g, const float* b, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[3 * i] = r[i], out[3 * i + 1] = g[i], out[3 * i + 2] = b[i];
}

/// One frame as it would be shown, sRGB codes 0..1, interleaved; `use` gets its share.
bool display(const PlacedFrame& placed, const Image<float>* share, int cell, const StopFlag& stop, Image<float>& picture, Image<float>& use) {
  static const Encoder encoder;
  const Frame& frame = *placed.frame;
  const float gain = 0.18f / frame.midTone;
  float m[9];
  for (std::size_t i = 0; i < 9; ++i) m[i] = float(frame.toRec709[i]);
  const bool plain = frame.toRec709 == kIdentity3;
  if (plain && frame.curveAssumed) { // a rendered file is shown as it is
    std::vector<float> shown(static_cast<std::size_t>(frame.table.size()));
    for (std::size_t i = 0; i < shown.size(); ++i) shown[i] = float(i) / float(shown.size() - 1);
    const CodeTable codes(std::move(shown));
    return readPlaced(placed, share, cell, picture.width(), picture.height(), stop, [&](const PlacedRow& row) {
      interleave(row.linear[0], row.linear[1], row.linear[2], row.count, picture.at(row.x, row.y));
      std::copy_n(row.use, row.count, use.at(row.x, row.y));
    }, &codes);
  }
  return readPlaced(placed, share, cell, picture.width(), picture.height(), stop, [&](const PlacedRow& row) {
    float codes[3][256], mixed[3][256];
    for (int c = 0; c < 3; ++c) {
      const float* from = row.linear[c];
      if (!plain) {
        for (int i = 0; i < row.count; ++i) mixed[c][i] = m[3 * c] * row.linear[0][i] + m[3 * c + 1] * row.linear[1][i] + m[3 * c + 2] * row.linear[2][i];
        from = mixed[c];
      }
      encoder.row(from, gain, row.count, codes[c]);
    }
    float* out = picture.at(row.x, row.y);
    for (int i = 0; i < row.count; ++i) out[3 * i] = codes[0][i], out[3 * i + 1] = codes[1][i], out[3 * i + 2] = codes[2][i];
    std::copy_n(row.use, row.count, use.at(row.x, row.y));
  });
}

ML_VECTOR_CLONES void greyRow(const float* rgb, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = 0.299f * rgb[3 * i] + 0.587f * rgb[3 * i + 1] + 0.114f * rgb[3 * i + 2]; // ITU-R BT.601, as the paper's code has it
}
ML_VECTOR_CLONES void measures(const float* rgb, const float* above, const float* here, const float* below, int n, float* __restrict contrast,
                               float* __restrict saturation, float* __restrict exposedness) {
  for (int i = 0; i < n; ++i) {
    const float r = rgb[3 * i], g = rgb[3 * i + 1], b = rgb[3 * i + 2], mean = (r + g + b) * (1 / 3.f);
    saturation[i] = std::sqrt((r - mean) * (r - mean) + (g - mean) * (g - mean) + (b - mean) * (b - mean));
    const float d = (r - 0.5f) * (r - 0.5f) + (g - 0.5f) * (g - 0.5f) + (b - 0.5f) * (b - 0.5f);
    exposedness[i] = expOfNegative(d * (-1 / (2 * 0.2f * 0.2f)));
    contrast[i] = above[i] + below[i] - 4 * here[i];
  }
}

float powered(float value, float power) { return power == 1 ? value : power == 0 ? 1.f : std::pow(value, power); }

/// Weights before they are made to sum to 1, section 3.1 of the paper.
void weigh(const Image<float>& picture, const FusionOptions& o, Image<float>& use) {
  const int w = picture.width(), h = picture.height();
  const bool plain = o.contrast == 1 && o.saturation == 1 && o.exposedness == 1;
  forEachBand(h, [&](const Band& band) {
    std::vector<float> grey[3], contrast(static_cast<std::size_t>(w)), saturation(static_cast<std::size_t>(w)), exposedness(static_cast<std::size_t>(w));
    const auto fill = [&](int y) {
      auto& row = grey[std::size_t((y + 3) % 3)];
      row.resize(static_cast<std::size_t>(w));
      greyRow(picture.row(std::clamp(y < 0 ? -y : y >= h ? 2 * h - 2 - y : y, 0, h - 1)), w, row.data());
    };
    fill(band.begin - 1);
    fill(band.begin);
    for (int y = band.begin; y < band.end; ++y) {
      fill(y + 1);
      const float *here = grey[std::size_t((y + 3) % 3)].data();
      measures(picture.row(y), grey[std::size_t((y + 2) % 3)].data(), here, grey[std::size_t((y + 4) % 3)].data(), w, contrast.data(), saturation.data(), exposedness.data());
      float* out = use.row(y);
      for (int x = 0; x < w; ++x) {
        const float across = here[x > 0 ? x - 1 : std::min(1, w - 1)] + here[x < w - 1 ? x + 1 : std::max(0, w - 2)], c = std::abs(contrast[std::size_t(x)] + across);
        const float s = saturation[std::size_t(x)], e = exposedness[std::size_t(x)];
        out[x] *= (plain ? c * s * e : powered(c, o.contrast) * powered(s, o.saturation) * powered(e, o.exposedness)) + kTiny;
      }
    }
  });
}

ML_VECTOR_CLONES void divideBy(const float* sum, std::ptrdiff_t n, float* __restrict values) {
  for (std::ptrdiff_t i = 0; i < n; ++i) values[i] = sum[i] > 0 ? values[i] / sum[i] : 0.f;
}
ML_VECTOR_CLONES void addTo(const float* values, std::ptrdiff_t n, float* __restrict sum) {
  for (std::ptrdiff_t i = 0; i < n; ++i) sum[i] += values[i];
}
template <class Work> void byRows(const Image<float>& shape, const Work& work) {
  forEachBand(shape.height(), [&](const Band& band) {
    const std::ptrdiff_t from = std::ptrdiff_t(band.begin) * shape.width(), n = std::ptrdiff_t(band.end - band.begin) * shape.width();
    work(from, n);
  });
}

/// Blends one frame into the pyramid of the result.
void blend(Image<float> picture, Image<float> weight, std::vector<Image<float>>& result) {
  for (std::size_t level = 0; level < result.size(); ++level) {
    const bool last = level + 1 == result.size();
    Image<float> coarse = last ? Image<float>() : halved(picture);
    addDetail(picture, coarse, weight, result[level]);
    if (last) break;
    weight = halved(weight);
    picture = std::move(coarse);
  }
}

void toLinear(Image<float>& picture) {
  static const std::vector<float> table = [] {
    std::vector<float> t(4098);
    for (int i = 0; i <= 4097; ++i) t[std::size_t(i)] = float(srgbDecode(i / 4096.0));
    return t;
  }();
  forEachBand(picture.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y) {
      float* row = picture.row(y);
      for (int i = 0; i < picture.width() * 3; ++i) {
        const float at = std::clamp(row[i], 0.f, 1.f) * 4096;
        row[i] = table[std::size_t(at)] + (at - float(int(at))) * (table[std::size_t(at) + 1] - table[std::size_t(at)]);
      }
    }
  });
}

} // namespace

Result<MergeResult> fuseExposures(const std::vector<PlacedFrame>& frames, const MergeOptions& options, const FusionOptions& fusion, const Progress& progress) {
  if (auto sound = checkFrames(frames, options); !sound) return passOn(sound.error());
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  Consistency consistency = findConsistency(frames, options, progress);
  if (progress.stopRequested()) return stopped();
  const int width = reference.width(), height = reference.height();
  const auto share = [&](std::size_t i) { return consistency.share.empty() ? nullptr : &consistency.share[i]; };
  Image<float> sum(width, height, 1);
  sum.fill(0);
  Image<float> picture(width, height, 3), use(width, height, 1);
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (!display(frames[i], share(i), consistency.cell, progress.stop, picture, use)) return stopped();
    weigh(picture, fusion, use);
    byRows(sum, [&](std::ptrdiff_t from, std::ptrdiff_t n) { addTo(use.data() + from, n, sum.data() + from); });
    progress.at("Weigh frames", 0.5 * double(i + 1) / double(frames.size()));
  }
  std::vector<Image<float>> pyramid;
  const int levels = int(std::log2(double(std::min(width, height)))) + 1;
  for (int level = 0, w = width, h = height; level < levels; ++level, w = (w + 1) / 2, h = (h + 1) / 2) {
    pyramid.emplace_back(w, h, 3);
    pyramid.back().fill(0);
  }
  for (std::size_t i = 0; i < frames.size(); ++i) {
    Image<float> shown(width, height, 3), weight(width, height, 1);
    if (!display(frames[i], share(i), consistency.cell, progress.stop, shown, weight)) return stopped();
    weigh(shown, fusion, weight);
    byRows(sum, [&](std::ptrdiff_t from, std::ptrdiff_t n) { divideBy(sum.data() + from, n, weight.data() + from); });
    blend(std::move(shown), std::move(weight), pyramid);
    progress.at("Blend frames", 0.5 + 0.5 * double(i + 1) / double(frames.size()));
  }
  for (std::size_t level = pyramid.size() - 1; level > 0; --level) {
    addDoubled(pyramid[level], pyramid[level - 1]);
    pyramid.pop_back();
  }
  MergeResult result;
  result.radiance = std::move(pyramid.front());
  toLinear(result.radiance);
  result.motion = std::move(consistency.report);
  result.ev100OfUnit = ev100(reference.settings).value - std::log2(0.18);
  return result;
}

} // namespace ml
