#include "finish/finish.h"

#include "base/parallel.h"
#include "image/colour.h"

#include <array>
#include <cmath>
#include <vector>

namespace ml {
namespace {

/// sRGB encoding to 16 bits by a table over the square root of the light, where the curve is nearly straight.
class SrgbTable {
public:
  SrgbTable() : values_(kSize + 2) {
    for (int i = 0; i < int(values_.size()); ++i) {
      const double root = double(i) / kSize;
      values_[i] = float(srgbEncode(root * root) * 65535);
    }
  }
  std::uint16_t operator()(float linear) const {
    const float position = std::sqrt(std::clamp(linear, 0.f, 1.f)) * kSize;
    const int i = int(position);
    return std::uint16_t(values_[i] + (position - float(i)) * (values_[i + 1] - values_[i]) + 0.5f);
  }

private:
  static constexpr int kSize = 8192;
  std::vector<float> values_;
};

/// Square roots of luminance of three neighbouring rows: dark edges count too. Rows and columns beyond the border repeat it.
class RootRows {
public:
  RootRows(const Image<float>& in, int first) : in_(in) {
    for (auto& row : rows_) row.resize(std::size_t(in.width()) + 2);
    fill(first - 1);
    fill(first);
  }
  void advanceTo(int y) {
    y_ = y;
    fill(y + 1);
  }
  [[nodiscard]] float centre(int x) const { return row(y_)[x + 1]; }
  /// What a pixel stands above the 3x3 binomial mean around it; the limit on each side keeps rims from appearing at strong edges.
  [[nodiscard]] float detail(int x) const {
    const float *a = row(y_ - 1) + x, *b = row(y_) + x, *c = row(y_ + 1) + x;
    const float mean = (4 * b[1] + 2 * (b[0] + b[2] + a[1] + c[1]) + a[0] + a[2] + c[0] + c[2]) / 16;
    return std::clamp(b[1] - mean, -0.04f, 0.04f);
  }

private:
  [[nodiscard]] const float* row(int y) const { return rows_[std::size_t(y + 3) % 3].data(); }
  void fill(int y) {
    float* out = rows_[std::size_t(y + 3) % 3].data();
    const float* in = in_.row(std::clamp(y, 0, in_.height() - 1));
    for (int x = 0; x < in_.width(); ++x) out[x + 1] = std::sqrt(luminance(in + 3 * std::size_t(x)));
    out[0] = out[1];
    out[in_.width() + 1] = out[in_.width()];
  }
  const Image<float>& in_;
  std::array<std::vector<float>, 3> rows_;
  int y_ = 0;
};

} // namespace

Result<Finished> finishPicture(ImageView<const float> radiance, const ToneAnalysis& analysis, const Recipe& recipe,
                               const Progress& progress) {
  if (const auto reason = recipe.invalidReason()) return fail(ErrorCode::InvalidArgument, "The picture cannot be finished: " + *reason + ".");
  auto toned = toneNatural(radiance, analysis, recipe.tone, progress);
  if (!toned) return passOn(toned.error());
  static const SrgbTable encode;
  Finished out{Image<std::uint16_t>(radiance.width, radiance.height, 3), {}};
  std::vector<std::pair<int, int>> counts(bandCount(radiance.height));
  const bool finished = forEachBand(radiance.height, progress.stop, [&](const Band& band) {
    auto& [white, black] = counts[band.index];
    RootRows roots(*toned, band.begin);
    for (int y = band.begin; y < band.end; ++y) {
      roots.advanceTo(y);
      for (int x = 0; x < radiance.width; ++x) {
        const float* p = toned->at(x, y);
        float gain = 1;
        if (recipe.sharpening > 0) {
          const float root = std::max(1e-3f, roots.centre(x));
          const float sharper = std::max(0.f, root + 2 * float(recipe.sharpening) * roots.detail(x));
          gain = sharper * sharper / (root * root);
        }
        std::uint16_t* code = out.picture.at(x, y);
        for (int c = 0; c < 3; ++c) code[c] = encode(p[c] * gain);
        white += code[0] >= 65400 || code[1] >= 65400 || code[2] >= 65400;
        black += code[0] < 200 && code[1] < 200 && code[2] < 200;
      }
    }
  });
  if (!finished) return stopped();
  for (const auto& [white, black] : counts) {
    out.report.whiteShare += white;
    out.report.blackShare += black;
  }
  out.report.whiteShare /= double(radiance.width) * radiance.height;
  out.report.blackShare /= double(radiance.width) * radiance.height;
  return out;
}

} // namespace ml
