#pragma once
#include <vector>

namespace ml {

/// sRGB, IEC 61966-2-1, made by Little CMS.
[[nodiscard]] std::vector<unsigned char> srgbProfile();
/// Rec. 709 primaries, D65, linear transfer: for float TIFF.
[[nodiscard]] std::vector<unsigned char> linearRec709Profile();

} // namespace ml
