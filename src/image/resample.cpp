// SPDX-License-Identifier: GPL-3.0-or-later
#include "image/resample.h"

#include "base/parallel.h"

#include <cmath>
#include <vector>

namespace ml {
namespace {

struct Span {
  int first = 0;
  std::vector<float> weights;
};

/// Which input samples, with which share, make each of `to` output samples.
std::vector<Span> areaSpans(int from, int to) {
  std::vector<Span> spans(to);
  const double ratio = double(from) / to;
  for (int i = 0; i < to; ++i) {
    const double begin = i * ratio, end = (i + 1) * ratio;
    spans[i].first = int(begin);
    for (int k = int(begin); k < std::min(from, int(std::ceil(end))); ++k)
      spans[i].weights.push_back(float((std::min<double>(k + 1, end) - std::max<double>(k, begin)) / ratio));
  }
  return spans;
}

} // namespace

Image<float> shrink(ImageView<const float> in, int factor) {
  const int width = (in.width + factor - 1) / factor, height = (in.height + factor - 1) / factor;
  Image<float> out(width, height, in.channels);
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < in.channels; ++c) {
          const int x1 = std::min(in.width, (x + 1) * factor), y1 = std::min(in.height, (y + 1) * factor);
          float sum = 0;
          for (int v = y * factor; v < y1; ++v)
            for (int u = x * factor; u < x1; ++u) sum += in.at(u, v)[c];
          out.at(x, y)[c] = sum / float((x1 - x * factor) * (y1 - y * factor));
        }
  });
  return out;
}

Image<float> shrinkTo(const PictureRows& in, int width, int height) {
  const auto columns = areaSpans(in.width, width), rows = areaSpans(in.height, height);
  Image<float> out(width, height, in.channels);
  forEachBand(height, [&](const Band& band) {
    std::vector<float> line(std::size_t(in.width) * in.channels);
    Image<float> room;
    for (int y = band.begin; y < band.end; ++y) {
      std::fill(line.begin(), line.end(), 0.f);
      const auto sources = in.rows(rows[y].first, rows[y].first + int(rows[y].weights.size()), room);
      for (std::size_t k = 0; k < rows[y].weights.size(); ++k) {
        const float* source = sources.row(int(k));
        for (std::size_t i = 0; i < line.size(); ++i) line[i] += rows[y].weights[k] * source[i];
      }
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < in.channels; ++c) {
          float sum = 0;
          for (std::size_t k = 0; k < columns[x].weights.size(); ++k)
            sum += columns[x].weights[k] * line[(columns[x].first + k) * in.channels + c];
          out.at(x, y)[c] = sum;
        }
    }
  });
  return out;
}

Roi fitted(int width, int height, int longEdge) {
  const int longest = std::max(width, height);
  if (longest <= longEdge) return {0, 0, width, height};
  const double scale = double(longEdge) / longest;
  return {0, 0, std::max(1, int(std::lround(width * scale))), std::max(1, int(std::lround(height * scale)))};
}

} // namespace ml
