// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "tone/noise.h"
#include "tone/rendering.h"

namespace ml {

/// Brings the contrast of places, between two pixels and a forty-fifth of the picture, to what it is in an exposure
/// that is made for the place (the slope of `rendering` at the middle tones): where bright and dark were brought
/// together, and towards black and white, it is less. Edges are followed (a guided filter), and where there is one
/// nothing is done, so that nothing glows beside windows; what is noise is not made more of. `placed`: log2 light where
/// the exposure holds it; `log`: the scene's log2 luminance; both one channel, of one size, some 768 pixels long.
void bringContrast(Image<float>& placed, const Image<float>& log, const Rendering& rendering,
                   const NoiseByLight& noise);

} // namespace ml
