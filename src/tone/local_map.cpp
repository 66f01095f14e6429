#include "tone/local_map.h"

#include "base/vector_clones.h"
#include "tone/base_layer.h"

#include <algorithm>

namespace ml {
namespace {

ML_VECTOR_CLONES void blendRows(const float* top, const float* bottom, float f, int n, float* __restrict out) {
  for (int i = 0; i < n; ++i) out[i] = top[i] + f * (bottom[i] - top[i]);
}

ML_VECTOR_CLONES void spreadRow(const float* cells, const int* cell, const float* fraction, int n, float* __restrict a, float* __restrict b) {
  for (int i = 0; i < n; ++i) {
    const float* p = cells + 2 * cell[i];
    const float f = fraction[i];
    a[i] = p[0] + f * (p[2] - p[0]);
    b[i] = p[1] + f * (p[3] - p[1]);
  }
}

ML_VECTOR_CLONES bool anyCell(const float* cells, int n) {
  int any = 0;
  for (int i = 0; i < n; ++i) any |= (cells[i] > 1e-5f) | (cells[i] < -1e-5f);
  return any;
}

Image<float> product(const Image<float>& a, const Image<float>& b) {
  Image<float> out(a.width(), a.height(), 1);
  for (std::size_t i = 0; i < a.size(); ++i) out.data()[i] = a.data()[i] * b.data()[i];
  return out;
}

} // namespace

GridColumns::GridColumns(int gridWidth, int width) : cell(std::size_t(width)), fraction(std::size_t(width)) {
  const float scale = float(gridWidth) / float(width);
  for (int x = 0; x < width; ++x) {
    const float u = std::clamp((float(x) + 0.5f) * scale - 0.5f, 0.f, float(gridWidth - 1));
    cell[std::size_t(x)] = std::min(int(u), std::max(0, gridWidth - 2));
    fraction[std::size_t(x)] = u - float(cell[std::size_t(x)]);
  }
}

bool GridRow::read(const LocalMap& map, const GridColumns& columns, int y, int height, int x0, int n, float* a, float* b, std::vector<float>& scratch) {
  const int w = map.coefficients.width(), h = map.coefficients.height();
  scratch.resize(std::size_t(2 * w) + 2);
  const int first = columns.cell[std::size_t(x0)], last = std::min(w - 1, columns.cell[std::size_t(x0 + n - 1)] + 1);
  const float v = std::clamp((float(y) + 0.5f) * float(h) / float(height) - 0.5f, 0.f, float(h - 1));
  const int row = std::min(int(v), std::max(0, h - 2));
  blendRows(map.coefficients.row(row) + 2 * first, map.coefficients.row(std::min(h - 1, row + 1)) + 2 * first, v - float(row), 2 * (last - first + 1), scratch.data() + 2 * first);
  if (!anyCell(scratch.data() + 2 * first, 2 * (last - first + 1))) return false;
  if (last == w - 1) scratch[std::size_t(2 * w)] = scratch[std::size_t(2 * w) - 2], scratch[std::size_t(2 * w) + 1] = scratch[std::size_t(2 * w) - 1];
  spreadRow(scratch.data(), columns.cell.data() + x0, columns.fraction.data() + x0, n, a, b);
  return true;
}

LocalMap followEdges(const Image<float>& wanted, const Image<float>& guide, int radius, double softness) {
  const Image<float> meanG = boxMean(guide, radius), meanW = boxMean(wanted, radius);
  const Image<float> meanGG = boxMean(product(guide, guide), radius), meanGW = boxMean(product(guide, wanted), radius);
  const float eps = float(softness * softness);
  Image<float> a(guide.width(), guide.height(), 1), b(guide.width(), guide.height(), 1);
  for (std::size_t i = 0; i < a.size(); ++i) {
    const float g = meanG.data()[i];
    a.data()[i] = (meanGW.data()[i] - g * meanW.data()[i]) / (std::max(0.f, meanGG.data()[i] - g * g) + eps);
    b.data()[i] = meanW.data()[i] - a.data()[i] * g;
  }
  const Image<float> smoothA = boxMean(a, radius), smoothB = boxMean(b, radius);
  LocalMap out{Image<float>(guide.width(), guide.height(), 2)};
  for (std::size_t i = 0; i < a.size(); ++i) out.coefficients.data()[2 * i] = smoothA.data()[i], out.coefficients.data()[2 * i + 1] = smoothB.data()[i];
  return out;
}

LocalMap plainMap(const Image<float>& wanted) {
  LocalMap out{Image<float>(wanted.width(), wanted.height(), 2)};
  for (std::size_t i = 0; i < wanted.size(); ++i) out.coefficients.data()[2 * i] = 0, out.coefficients.data()[2 * i + 1] = wanted.data()[i];
  return out;
}

} // namespace ml
