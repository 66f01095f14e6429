#include "finish/finish.h"

#include "base/parallel.h"
#include "image/colour.h"

#include <cmath>

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

/// What a pixel's luminance stands above the 3x3 binomial mean around it; square-root light, so that dark edges count too.
float fineDetail(const Image<float>& in, int x, int y) {
  const auto root = [&](int u, int v) {
    return std::sqrt(luminance(in.at(std::clamp(u, 0, in.width() - 1), std::clamp(v, 0, in.height() - 1))));
  };
  const float centre = root(x, y);
  const float mean = (4 * centre + 2 * (root(x - 1, y) + root(x + 1, y) + root(x, y - 1) + root(x, y + 1)) + root(x - 1, y - 1) +
                      root(x + 1, y - 1) + root(x - 1, y + 1) + root(x + 1, y + 1)) / 16;
  return std::clamp(centre - mean, -0.04f, 0.04f); // a limit on each side keeps rims from appearing at strong edges
}

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
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < radiance.width; ++x) {
        const float* p = toned->at(x, y);
        float gain = 1;
        if (recipe.sharpening > 0) {
          const float root = std::sqrt(std::max(1e-6f, luminance(p)));
          const float sharper = std::max(0.f, root + 2 * float(recipe.sharpening) * fineDetail(*toned, x, y));
          gain = sharper * sharper / (root * root);
        }
        std::uint16_t* code = out.picture.at(x, y);
        for (int c = 0; c < 3; ++c) code[c] = encode(p[c] * gain);
        white += code[0] >= 65400 || code[1] >= 65400 || code[2] >= 65400;
        black += code[0] < 200 && code[1] < 200 && code[2] < 200;
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
