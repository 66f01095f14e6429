#pragma once

namespace ml {

/// The way through a view.
enum class Station { Light, Frames, Shoot, Combine, Finish, Deliver };
inline constexpr int kStationCount = 6;

} // namespace ml
