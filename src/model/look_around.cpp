// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/look_around.h"

#include "deliver/row_spool.h"
#include "finish/finish.h"
#include "image/resample.h"
#include "model/pictures.h"
#include "session/radiance_history.h"

#include <utility>

namespace ml {
namespace {

constexpr int kSharpEdge = 4096; ///< 11 pixels a degree: what a screen shows of 90 degrees.
constexpr int kLookRestMs = 300;

Image<std::uint8_t> bytesOf(const Image<std::uint16_t>& codes) {
  Image<std::uint8_t> out(codes.width(), codes.height(), 3);
  for (std::size_t i = 0; i < out.size(); ++i) out.data()[i] = std::uint8_t((codes.data()[i] + 128) / 257);
  return out;
}

} // namespace

LookAround::LookAround(const FinishModel& finish) : finish_(finish) {
  rest_.setSingleShot(true);
  rest_.setInterval(kLookRestMs);
  connect(&rest_, &QTimer::timeout, this, &LookAround::drawSharp);
  connect(&finish_, &FinishModel::pictureChanged, this, &LookAround::takePreview);
  takePreview();
}

bool LookAround::possible(const FinishModel& finish) {
  const auto picture = finish.finished.combined();
  return picture && picture->facts.sphere && finish.recipe().geometry == Geometry{};
}

void LookAround::takePreview() {
  if (!possible(finish_)) return;
  const QImage rgb = finish_.finished.image().convertToFormat(QImage::Format_RGB888);
  if (rgb.height() < 2) return;
  sphere_ = Image<std::uint8_t>(rgb.width(), rgb.height(), 3);
  for (int y = 0; y < rgb.height(); ++y) std::copy_n(rgb.constScanLine(y), rgb.width() * 3, sphere_.row(y));
  sharp_ = false;
  rest_.start();
  emit changed();
}

void LookAround::drawSharp() {
  if (!possible(finish_)) return;
  const View& view = finish_.desk().view();
  work_.start([this, file = radianceNow(view), recipe = view.recipe,
               facts = finish_.finished.combined()->facts](const Progress& progress) -> std::function<void()> {
    const auto radiance = openRadiance(file, progress.stop);
    if (!radiance) return {}; // the picture on screen says why
    const PictureRows rows = radiance->rows();
    const Roi size = fitted(rows.width, rows.height, kSharpEdge);
    const Image<float> small = shrinkTo(rows, size.width, size.height);
    const auto finished = finishRadiance(small.view(), recipe, facts, nullptr, progress);
    if (!finished) return {};
    return [this, bytes = std::make_shared<Image<std::uint8_t>>(bytesOf(finished->picture))] {
      sphere_ = std::move(*bytes);
      sharp_ = true;
      emit changed();
    };
  });
}

QImage LookAround::seen(int width, int height) const {
  if (sphere_.empty() || width <= 0 || height <= 0) return {};
  return toQImage(lookInto(std::as_const(sphere_).view(), gaze_, width, height));
}

void LookAround::set(const Gaze& gaze) {
  if (gaze == gaze_) return;
  gaze_ = gaze;
  emit changed();
}

} // namespace ml
