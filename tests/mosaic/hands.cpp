// SPDX-License-Identifier: GPL-3.0-or-later
#include "mosaic/hands.h"

#include "base/parallel.h"
#include "capture/developed.h"
#include "ingest/load_frame.h"
#include "merge/merge.h"
#include "mosaic/scenes.h"
#include "support/radiance_sets.h"

#include <QTemporaryDir>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace ml::test {
namespace {

constexpr int kFine = 4;
constexpr HandPose kPoses[] = {{3.37, -1.62, 0.05}, {-2.11, 4.48, -0.08}, {0.52, 2.73, 0.1}, {-4.29, -3.9, 0.02}};

Image<float> fine(const std::string& scene, int width, int height, const HandPose& pose) {
  const int w = kFine * width, h = kFine * height;
  if (scene != "chart" && scene != "fabric") {
    const RadianceView view(scene, w, h);
    Image<float> light = view.seen(kFine * pose.dx, kFine * pose.dy, pose.degrees, -1);
    const float scale = float(0.25 / view.median());
    for (std::size_t i = 0; i < light.size(); ++i) light.data()[i] *= scale;
    return light;
  }
  Image<float> out(w, h, 3);
  const double a = pose.degrees * std::numbers::pi / 180, ca = std::cos(a), sa = std::sin(a), cx = (width - 1) / 2.0,
               cy = (height - 1) / 2.0;
  forEachBand(h, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < w; ++x) {
        const double px = (x + 0.5) / kFine - 0.5 - cx, py = (y + 0.5) / kFine - 0.5 - cy;
        const double wx = ca * px - sa * py + cx + pose.dx, wy = sa * px + ca * py + cy + pose.dy;
        const std::array<double, 3> colour = colourOf(scene, wx, wy, width, height);
        for (std::size_t c = 0; c < 3; ++c) out.at(x, y)[c] = float(colour[c]);
      }
  });
  return out;
}

/// A Gaussian and a photosite's square in one: weights of the fine samples around the middle of a pixel.
std::vector<float> drawingKernel(double blur) {
  const int reach = int(std::ceil(3 * blur * kFine)) + kFine / 2;
  std::vector<float> kernel;
  double sum = 0;
  for (int k = -reach; k < reach; ++k) {
    double w = 0;
    for (int j = 0; j < kFine; ++j) {
      const double d = (k + 0.5 - (j + 0.5 - kFine / 2.0)) / (blur * kFine);
      w += std::exp(-d * d / 2);
    }
    kernel.push_back(float(w)), sum += w;
  }
  for (float& w : kernel) w /= float(sum);
  return kernel;
}

constexpr double kReadNoise = 4 / 40000.0; ///< Of a full well of 40,000 electrons, in its lot.

} // namespace

Matrix3 HandPose::toFrame(int width, int height) const {
  const double a = degrees * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a), cx = (width - 1) / 2.0,
               cy = (height - 1) / 2.0;
  return inverse(Matrix3{c, -s, cx - c * cx + s * cy + dx, s, c, cy - s * cx - c * cy + dy, 0, 0, 1});
}

Image<float> drawnByHand(const std::string& scene, int width, int height, double blur, const HandPose& pose) {
  const Image<float> light = fine(scene, width, height, pose);
  const std::vector<float> kernel = drawingKernel(blur);
  const int reach = int(kernel.size()) / 2;
  Image<float> across(width, light.height(), 3), out(width, height, 3);
  forEachBand(light.height(), [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < 3; ++c) {
          float sum = 0;
          for (int k = -reach; k < reach; ++k)
            sum += kernel[std::size_t(k + reach)] *
                   light.at(std::clamp(kFine * x + kFine / 2 + k, 0, light.width() - 1), y)[c];
          across.at(x, y)[c] = sum;
        }
  });
  forEachBand(height, [&](const Band& band) {
    for (int y = band.begin; y < band.end; ++y)
      for (int x = 0; x < width; ++x)
        for (int c = 0; c < 3; ++c) {
          float sum = 0;
          for (int k = -reach; k < reach; ++k)
            sum += kernel[std::size_t(k + reach)] *
                   across.at(x, std::clamp(kFine * y + kFine / 2 + k, 0, light.height() - 1))[c];
          out.at(x, y)[c] = std::clamp(sum * kCameraBalance[std::size_t(c)], 0.f, 1.f);
        }
  });
  return out;
}

HandSet::HandSet(const std::string& name, int width, int height, double blur)
    : scene(name), truth(drawnByHand(name, width, height, blur, {})) {
  for (const HandPose& pose : kPoses) seen.push_back(drawnByHand(name, width, height, blur, pose));
}

void HandSet::shoot(const std::vector<double>& exposures, double fullWell, double off) {
  const QTemporaryDir dir;
  frames.clear(), poses.clear();
  reference = int(exposures.size()) / 2;
  for (std::size_t i = 0; i < exposures.size(); ++i) {
    const bool first = int(i) == reference;
    const std::size_t k = i - (int(i) > reference);
    Image<float> light = (first ? truth : seen[k]).clone();
    for (std::size_t j = 0; j < light.size(); ++j) light.data()[j] *= float(exposures[i]);
    const std::filesystem::path file = dir.filePath("frame.dng").toStdString();
    const double readNoise = kReadNoise * std::sqrt(40000 * fullWell);
    writeMosaicDng(file, mosaicked(light, fullWell, readNoise, 0, 0, unsigned(11 + i)), 0, 0);
    auto frame = loadFrame(file, Unsaid::Allowed);
    if (!frame) qFatal("%s", frame.error().message.c_str());
    frame->settings.time.value = exposures[i], frame->settings.aperture.value = 8, frame->settings.iso.value = 100;
    frame->sensor = frame->noise = {1 / fullWell, readNoise * readNoise / (fullWell * fullWell)};
    frames.push_back(std::move(*frame));
    HandPose pose = first ? HandPose{} : kPoses[k];
    const double angle = 2.4 * double(i);
    if (!first) pose.dx += off * std::cos(angle), pose.dy += off * std::sin(angle);
    poses.push_back(pose);
  }
}

std::vector<PlacedFrame> HandSet::placed(double misplacement) const {
  std::vector<PlacedFrame> out;
  for (std::size_t i = 0; i < frames.size(); ++i)
    out.push_back(
        {&frames[i], poses[i].toFrame(truth.width(), truth.height()), int(i) == reference ? 0 : misplacement});
  return out;
}

Quality HandSet::merged(double misplacement, MotionMode motion) const {
  MergeOptions options;
  options.motion = motion;
  options.reference = reference;
  auto result = mergeRadiance(placed(misplacement), options, {});
  if (!result) qFatal("%s", result.error().message.c_str());
  const Frame& frame = frames[std::size_t(reference)];
  const float unit = 0.18f / frame.midTone * frame.saturation[1]; // of the camera's light in the result's
  for (std::size_t k = 0; k < result->radiance.size(); ++k) result->radiance.data()[k] /= unit;
  return qualityOf(result->radiance, truth);
}

Quality HandSet::single() const {
  const Frame frame = developed(frames[std::size_t(reference)]);
  Image<float> light(truth.width(), truth.height(), 3);
  for (int y = 0; y < light.height(); ++y)
    for (int x = 0; x < light.width(); ++x) {
      frame.linearAt(x, y, light.at(x, y));
      for (int c = 0; c < 3; ++c) light.at(x, y)[c] /= frame.saturation[1];
    }
  return qualityOf(light, truth);
}

void HandSet::forgetPattern() {
  for (Frame& frame : frames) frame = developed(frame);
}

} // namespace ml::test
