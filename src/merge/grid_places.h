// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "image/colour.h"
#include "image/image.h"

#include <vector>

namespace ml {

/// How samples at whole places weigh at a place between them.
struct PlaceKernel {
  int taps;                                                           ///< Even; half of them on either side.
  void (*weigh)(const float* position, int n, float* out);            ///< `taps` rows of n weights.
  [[nodiscard]] constexpr int before() const { return taps / 2 - 1; } ///< Samples before the one at the whole place.
  [[nodiscard]] constexpr int margin() const { return taps / 2 + 1; } ///< That must lie around what is asked for.
};
/// interpolationWeights.
extern const PlaceKernel kInterpolating;
/// A hill of half a pixel (standard deviation), not scaled to sum 1: for sums of samples and of their weights.
extern const PlaceKernel kGathering;

/// Weighted sum of rows that lie `step` apart from `p` on; `w` holds rows of weights, `pitch` apart.
void sumOfFour(const float* p, std::ptrdiff_t step, const float* w, int pitch, int n, float* out);
/// The same of six, held between the middle four: no edge rings.
void sumOfSix(const float* p, std::ptrdiff_t step, const float* w, int pitch, int n, float* out);

/// What of a frame of that size is seen in `where`, `margin` pixels around included; held near the frame, however far a
/// homography would lead.
[[nodiscard]] Roi boundsOn(const Matrix3& toFrame, const Roi& where, int width, int height, int margin);

/// Where the samples of one grid lie on another, row by row, for two passes: first down the columns of the one and then
/// along the rows of the other (Catmull and Smith, SIGGRAPH 1980: exact for any homography that does not turn the
/// picture far).
class GridPlaces {
public:
  struct Weights {
    std::vector<float> values;
    std::vector<int> whole;
    double at[3] = {};
    bool known = false, single = false; ///< All whole parts the same.
    int first = 0;                      ///< Whole part of the start, which the others are relative to.

    /// Calls work(begin, end, from) for stretches of the same whole part; the kernel begins `before` samples before it.
    template <class Work> void forEachRun(int n, const Work& work) const {
      if (single) return work(0, n, first + whole.front());
      for (int begin = 0; begin < n;) {
        int end = begin + 1;
        while (end < n && whole[std::size_t(end)] == whole[std::size_t(begin)]) ++end;
        work(begin, end, first + whole[std::size_t(begin)]);
        begin = end;
      }
    }
  };

  /// `h` maps `where`'s grid to `source`'s.
  void begin(const Matrix3& h, const Roi& where, const Roi& source, const PlaceKernel& kernel);
  /// Finds the places of row y of `where`, counted from its first.
  void row(int y);

  /// For each column of `source`: rows of it, counted from its first.
  [[nodiscard]] const Weights& down() const { return down_; }
  /// For each pixel of the row: columns of `source`, less its own place in the row.
  [[nodiscard]] const Weights& along() const { return along_; }

private:
  void find(const double (&at)[3], int n, int moving, int size, Weights& w);

  Matrix3 h_ = kIdentity3;
  Roi where_, source_;
  const PlaceKernel* kernel_ = nullptr;
  std::vector<float> position_;
  Weights down_, along_;
};

} // namespace ml
