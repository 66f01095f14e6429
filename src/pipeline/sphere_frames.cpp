// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/sphere_frames.h"

#include "image/sphere.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace ml {
namespace {

/// Mean difference of two columns of green, codes.
double apart(const Frame& frame, int a, int b) {
  double sum = 0;
  for (int y = 0; y < frame.height(); ++y)
    sum += std::abs(double(frame.codes.at(a, y, 1)) - double(frame.codes.at(b, y, 1)));
  return sum / frame.height();
}

/// Mean change along a row over a sixteenth of it, codes.
double changeAlong(const Frame& frame, int y) {
  const int step = frame.width() / 16;
  double sum = 0;
  for (int x = 0; x + step < frame.width(); ++x)
    sum += std::abs(double(frame.codes.at(x, y, 1)) - double(frame.codes.at(x + step, y, 1)));
  return sum / (frame.width() - step);
}

double median(std::vector<double> values) {
  std::nth_element(values.begin(), values.begin() + std::ptrdiff_t(values.size() / 2), values.end());
  return values[values.size() / 2];
}

} // namespace

bool showsAllDirections(const Frame& frame) {
  constexpr int kLeast = 64;
  constexpr double kWrap = 3, kPole = 0.4;
  const int w = frame.width(), h = frame.height();
  if (w != 2 * h || h < kLeast || frame.isMosaic()) return false;
  std::vector<double> beside, along;
  for (int k = 1; k < 16; ++k) beside.push_back(apart(frame, k * w / 16, k * w / 16 + 1));
  for (int k = 2; k < 15; ++k) along.push_back(changeAlong(frame, k * h / 16));
  const double across = median(beside), far = apart(frame, w / 4, 3 * w / 4);
  const double wrap = apart(frame, 0, w - 1), pole = std::max(changeAlong(frame, 0), changeAlong(frame, h - 1));
  return wrap <= kWrap * across + 1 && wrap < far / 2 && pole < kPole * median(along);
}

int addSphereMargins(std::vector<Frame>& frames) {
  const int margin = sphereMargin(frames[0].width());
  for (Frame& frame : frames) {
    frame.codes = frame.codes.visit([margin](auto view) { return Codes(withSphereMargins(view, margin)); });
    frame.pattern.fill(-1);
  }
  return margin;
}

} // namespace ml
