// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "align/transform.h"
#include "judge/sketch.h"

namespace ml {

/// Where one frame lies on another.
struct PairPlace {
  bool placed = false;           ///< Enough in common to say.
  bool exact = false;            ///< To a part of a pixel, as far as its places agree.
  bool moved = false;            ///< Proven by the pixels.
  bool rests = false;            ///< Seen to lie where the first lies.
  Transform transform;           ///< Pixel of the first -> pixel of the second.
  double shiftX = 0, shiftY = 0; ///< At the centre, frame pixels.
  double degrees = 0;
};
[[nodiscard]] PairPlace placePair(const Sketch& a, const Sketch& b);

/// Light as sketches hold it, read through the assumed curve, to light by the curve that was found.
class ToneReading {
public:
  ToneReading(const CodeTable& assumed, const CodeTable& found);
  [[nodiscard]] double at(int channel, double light) const;
  /// Stops of light that a 256th of the codes makes there: what coding leaves open.
  [[nodiscard]] double stopsPerCode(double light) const;

private:
  static constexpr int kSteps = 1024;
  std::array<std::vector<float>, 3> found_; ///< By the root of the assumed light.
};

/// What is known of the light of two frames before they are compared.
struct PairLight {
  double stops = 0;                   ///< The second gathered so much more.
  const ToneReading* tones = nullptr; ///< Null: as they are read.
  double unknown = 0;                 ///< Stops by which the curve may still be off.
  bool cutBeforeMatrix = false;       ///< Rendered: bright colours may be cut below their end.
};

/// How one frame differs from its neighbour in exposure.
struct PairMeasure {
  PairPlace place;
  double light = 0;                   ///< Stops the second is brighter than expected; median of green.
  double comparable = 0;              ///< Share of cells that both record.
  double redGreen = 0, blueGreen = 0; ///< Stops by which the white balance that the files state differs.
  double movedShare = 0;              ///< Connected places of some size where they disagree, as a share of the picture.
  double movedSmall = 0;              ///< The same with smaller places counted.
  Roi movedPlace;                     ///< Around them, pixels of the first frame.
};

/// `a` and `b` from the same camera and view. Cells of a hundredth of the width are compared after registration: their
/// ratio should be that of the exposures; outliers are things that moved. What differs evenly with the tone is the
/// curve's, up to a third of a stop.
[[nodiscard]] PairMeasure measurePair(const Sketch& a, const Sketch& b, const PairPlace& place, const PairLight& light);
/// The same with nothing known but the settings.
[[nodiscard]] PairMeasure measurePair(const Sketch& a, const Sketch& b);

} // namespace ml
