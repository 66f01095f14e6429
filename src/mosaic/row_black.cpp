// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/row_black.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

constexpr int kFewestColumns = 8, kFewestRows = 64;
constexpr double kLeastShare = 0.2; ///< Of what rows differ by, that is not the photosites' noise.
constexpr float kHot = 4;           ///< Standard deviations that a photosite may differ by.

/// Every second row of a column of a strip.
struct Column {
  std::vector<float> codes; ///< Less `middle`.
  float middle = 0;
  std::size_t place = 0; ///< Of `MaskedBlack::black`.
};

float medianOf(std::vector<float> values) {
  const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

Column columnOf(const MaskedStrip& strip, int x, int parity, int height) {
  Column out;
  for (int y = parity; y < height; y += 2) out.codes.push_back(strip.data[y * strip.pitch + x]);
  out.middle = medianOf(out.codes);
  out.place = std::size_t(2 * parity + ((x - strip.before) & 1));
  for (float& code : out.codes) code -= out.middle;
  return out;
}

/// Holds hot photosites to what noise reaches, and moves `middle` to the mean.
void settle(std::vector<Column>& columns) {
  constexpr float kOfMedian = 1.4826f;
  std::vector<float> sizes;
  for (const Column& column : columns)
    for (const float v : column.codes) sizes.push_back(std::abs(v));
  const float most = kHot * std::max(1.f, kOfMedian * medianOf(std::move(sizes)));
  for (Column& column : columns) {
    double sum = 0;
    for (float& v : column.codes) sum += v = std::clamp(v, -most, most);
    const float mean = float(sum / double(column.codes.size()));
    column.middle += mean;
    for (float& v : column.codes) v -= mean;
  }
}

/// `columns`: of even rows and of odd ones in turn.
std::vector<float> rowsOf(const std::vector<Column>& columns, int height) {
  const double n = double(columns.size() / 2);
  std::vector<float> rows(std::size_t(height), 0);
  double noise = 0, differ = 0;
  for (std::size_t y = 0; y < rows.size(); ++y) {
    double sum = 0, squares = 0;
    for (std::size_t k = y & 1; k < columns.size(); k += 2) {
      const double v = columns[k].codes[y / 2];
      sum += v, squares += v * v;
    }
    rows[y] = float(sum / n);
    noise += (squares - sum * sum / n) / (n - 1) / n;
    differ += sum / n * sum / n;
  }
  const double share = differ > 0 ? 1 - noise / differ : 0;
  if (share < kLeastShare) return {};
  for (float& row : rows) row *= float(share);
  return rows;
}

} // namespace

std::optional<MaskedBlack> maskedBlack(const std::vector<MaskedStrip>& strips, int height) {
  if (height < kFewestRows) return {};
  std::vector<Column> columns;
  for (const MaskedStrip& strip : strips)
    for (int x = 0; x < strip.width; ++x)
      for (const int parity : {0, 1}) columns.push_back(columnOf(strip, x, parity, height));
  if (int(columns.size()) < 2 * kFewestColumns) return {};
  settle(columns);
  MaskedBlack out;
  std::array<int, 4> count{};
  for (const Column& column : columns) out.black[column.place] += column.middle, ++count[column.place];
  for (std::size_t k = 0; k < 4; ++k) {
    if (count[k] == 0) return {};
    out.black[k] /= float(count[k]);
  }
  out.rows = rowsOf(columns, height);
  return out;
}

} // namespace ml
