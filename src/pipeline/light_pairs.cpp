// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/light_pairs.h"

#include "base/parallel.h"
#include "base/phrase.h"
#include "image/colour.h"
#include "image/resample.h"
#include "ingest/small_picture.h"

namespace ml {
namespace {

constexpr int kComparedEdge = 480;

struct Seen {
  Image<float> light; ///< Display-linear; empty: it cannot be read.
  Signature signature;
};

Seen seen(const std::filesystem::path& file) {
  Seen out;
  const auto picture = file.empty() ? Result<Image<std::uint8_t>>() : loadSmallPicture(file, kComparedEdge);
  if (!picture || picture->empty()) return out;
  out.signature = signatureOf(*picture);
  out.light = Image<float>(picture->width(), picture->height(), 3);
  for (std::size_t i = 0; i < out.light.size(); ++i)
    out.light.data()[i] = float(srgbDecode(picture->data()[i] / 255.0));
  return out;
}

/// Frames of a stand may be cropped a pixel more or less.
bool aboutTheSameShape(const Image<float>& a, const Image<float>& b) {
  return std::abs(a.width() - b.width()) <= 4 && std::abs(a.height() - b.height()) <= 4;
}

} // namespace

std::vector<LightPair> pairLights(const std::vector<NamedPicture>& pictures, const StopFlag& stop) {
  std::vector<Seen> all(pictures.size());
  forEachBand(
      int(pictures.size()), stop,
      [&](const Band& band) { all[std::size_t(band.begin)] = seen(pictures[std::size_t(band.begin)].file); }, 1);
  std::vector<LightPair> out;
  for (std::size_t i = 0; i + 1 < all.size(); ++i) {
    const Seen &one = all[i], &other = all[i + 1];
    if (one.light.empty() || other.light.empty() || !aboutTheSameShape(one.light, other.light)) continue;
    if (!underAnotherLight(one.signature, other.signature)) continue;
    const Image<float> fitting = shrinkTo(other.light.view(), one.light.width(), one.light.height());
    out.push_back({i, i + 1, compareWall(one.light.view(), fitting.view())});
  }
  return out;
}

std::string sentence(const LightPair& pair, const std::vector<NamedPicture>& pictures) {
  const std::string &first = pictures[pair.first].name, &second = pictures[pair.second].name;
  if (pair.wall) return sentence(*pair.wall, first, second);
  return phrase("\"{}\" and \"{}\" show one view under two lights, and no even wall that both show.", first, second);
}

} // namespace ml
