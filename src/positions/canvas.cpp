// SPDX-License-Identifier: GPL-3.0-or-later
#include "positions/canvas.h"
#include "base/phrase.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <vector>

namespace ml {
namespace {

constexpr double kPi = std::numbers::pi;
/// Up to these angles straight lines are kept, then verticals; beyond the last both axes are angles (common practice,
/// no source: wider perspective views stretch their corners too much to be looked at).
constexpr double kMostPerspective = 100, kMostPerspectiveAsked = 150, kMostCylindricalHeight = 110;

struct Extent {
  double left = 0, right = 0, top = 0, bottom = 0; ///< Angles, radians: yaw, and elevation downwards.
  bool closed = false, zenith = false, nadir = false;
};

/// Directions along the edges and inside of every frame.
std::vector<Vector3> samples(const Arrangement& a) {
  std::vector<Vector3> out;
  constexpr int kSteps = 24;
  for (std::size_t i = 0; i < a.poses.size(); ++i) {
    const CameraGeometry camera = a.camera(i);
    for (int v = 0; v <= kSteps; ++v)
      for (int u = 0; u <= kSteps; ++u)
        out.push_back(camera.ray(a.width * double(u) / kSteps - 0.5, a.height * double(v) / kSteps - 0.5));
  }
  return out;
}

bool seen(const Arrangement& a, const Vector3& direction) {
  for (std::size_t i = 0; i < a.poses.size(); ++i) {
    double x, y;
    if (a.camera(i).pixel(direction, x, y) && x >= 0 && y >= 0 && x <= a.width - 1 && y <= a.height - 1) return true;
  }
  return false;
}

Extent extentOf(const Arrangement& a, const std::vector<Vector3>& directions) {
  Extent out{1e9, -1e9, 1e9, -1e9, false, false, false};
  std::array<bool, 180> held{};
  for (const Vector3& d : directions) {
    const double yaw = std::atan2(d[0], d[2]), down = std::atan2(d[1], std::hypot(d[0], d[2]));
    out.left = std::min(out.left, yaw), out.right = std::max(out.right, yaw);
    out.top = std::min(out.top, down), out.bottom = std::max(out.bottom, down);
    held[std::size_t(std::clamp(int((yaw / kPi + 1) * 90), 0, 179))] = true;
  }
  out.zenith = seen(a, {0, -1, 0}), out.nadir = seen(a, {0, 1, 0});
  out.closed = out.zenith || out.nadir || std::all_of(held.begin(), held.end(), [](bool h) { return h; });
  if (out.zenith) out.top = -kPi / 2;
  if (out.nadir) out.bottom = kPi / 2;
  return out;
}

Projection chosenFor(const Extent& e, bool shifted) {
  const double wide = (e.right - e.left) / kDegree, high = (e.bottom - e.top) / kDegree;
  if (shifted || (!e.closed && wide <= kMostPerspective && high <= kMostPerspective)) return Projection::Perspective;
  return high <= kMostCylindricalHeight && !e.zenith && !e.nadir ? Projection::Cylindrical
                                                                 : Projection::Equirectangular;
}

/// Height on the plane of an angle downwards.
double heightOf(Projection p, double down) {
  return p == Projection::Cylindrical ? std::tan(down) : down;
}

} // namespace

const char* nameOf(Projection projection) {
  switch (projection) {
  case Projection::Auto: return wording("auto");
  case Projection::Perspective: return wording("perspective");
  case Projection::Cylindrical: return wording("cylindrical");
  case Projection::Equirectangular: break;
  }
  return wording("equirectangular");
}

Vector3 Canvas::direction(double x, double y) const {
  const double u = (x - centreX) / focal, v = (y - centreY) / focal;
  if (projection == Projection::Perspective) {
    const double n = std::sqrt(u * u + v * v + 1);
    return {u / n, v / n, 1 / n};
  }
  const double down = projection == Projection::Cylindrical ? std::atan(v) : v;
  return {std::sin(u) * std::cos(down), std::sin(down), std::cos(u) * std::cos(down)};
}

bool Canvas::place(const Vector3& d, double& x, double& y) const {
  if (projection == Projection::Perspective) {
    if (!(d[2] > 0.01)) return false;
    x = centreX + focal * d[0] / d[2];
    y = centreY + focal * d[1] / d[2];
    return true;
  }
  const double flat = std::hypot(d[0], d[2]);
  x = centreX + focal * std::atan2(d[0], d[2]);
  y = centreY + focal * (projection == Projection::Cylindrical ? d[1] / std::max(flat, 1e-9) : std::atan2(d[1], flat));
  return true;
}

Canvas Canvas::scaled(double factor) const {
  Canvas out = *this;
  out.width = std::max(1, int(std::lround(width * factor)));
  out.height = std::max(1, int(std::lround(height * factor)));
  const double fx = double(out.width) / width;
  out.focal = focal * fx; // a closed canvas must stay closed
  out.centreX = (centreX + 0.5) * fx - 0.5;
  out.centreY = (centreY + 0.5) * fx - 0.5;
  return out;
}

Result<Canvas> canvasFor(const Arrangement& a, Projection wish) {
  const auto directions = samples(a);
  const Extent e = extentOf(a, directions);
  Canvas out;
  out.projection = wish == Projection::Auto ? chosenFor(e, a.kind == PositionKind::Shifted) : wish;
  out.focal = a.poses[0].focal;
  double left = 1e9, right = -1e9, top = 1e9, bottom = -1e9;
  if (out.projection == Projection::Perspective) {
    const double most = std::max({-e.left, e.right, -e.top, e.bottom}) / kDegree;
    if (a.kind == PositionKind::Turned && (e.closed || most > kMostPerspectiveAsked / 2))
      return fail(ErrorCode::InvalidArgument,
                  phrase("The positions span {:.0f} degrees, too many for straight lines; use the cylindrical or "
                         "the equirectangular projection.",
                         e.closed ? 360 : 2 * most));
    for (const Vector3& d : directions) {
      double x, y;
      if (!out.place(d, x, y)) continue;
      left = std::min(left, x), right = std::max(right, x), top = std::min(top, y), bottom = std::max(bottom, y);
    }
  } else {
    if (out.projection == Projection::Cylindrical && (e.bottom > 80 * kDegree || e.top < -80 * kDegree))
      return fail(
          ErrorCode::InvalidArgument,
          phrase(
              "The positions reach up or down too far for the cylindrical projection; use the equirectangular one."));
    out.closed = e.closed;
    if (out.closed) out.focal = std::round(2 * kPi * out.focal) / (2 * kPi);
    left = out.focal * (out.closed ? -kPi : e.left), right = out.focal * (out.closed ? kPi : e.right);
    top = out.focal * heightOf(out.projection, e.top), bottom = out.focal * heightOf(out.projection, e.bottom);
  }
  // Pixel x covers x - 1/2 to x + 1/2.
  constexpr double kTiny = 1e-3;
  out.width = std::max(1, int(out.closed ? std::round(right - left) : std::ceil(right - left - kTiny)));
  out.height = std::max(1, int(std::ceil(bottom - top - kTiny)));
  out.centreX = -left - 0.5, out.centreY = -top - 0.5;
  constexpr double kMostPixels = 4e9;
  if (double(out.width) * out.height > kMostPixels)
    return fail(ErrorCode::InvalidArgument,
                phrase("The joined picture would have {} x {} pixels; use another projection.", out.width, out.height));
  return out;
}

} // namespace ml
