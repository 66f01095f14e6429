// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/combined_picture.h"

#include "image/resample.h"
#include "model/pictures.h"
#include "pipeline/noisier.h"
#include "session/radiance_history.h"

namespace ml {

std::shared_ptr<const CombinedPicture> pictureOf(const PictureRows& radiance, const SceneFacts& facts,
                                                 std::shared_ptr<const Image<float>> noisier) {
  auto made = std::make_shared<CombinedPicture>();
  const Roi size = fitted(radiance.width, radiance.height, kPreviewEdge);
  made->analysis = analyseTone(radiance, facts);
  if (noisier)
    made->analysis.noisier = noisierMap(*noisier, made->analysis.logLight.width(), made->analysis.logLight.height());
  made->preview = shrinkTo(radiance, size.width, size.height);
  made->facts = facts;
  made->noisier = std::move(noisier);
  return made;
}

Result<std::shared_ptr<const CombinedPicture>> loadPicture(const View& view, const Progress& progress) {
  const auto radiance = openRadiance(radianceNow(view), progress.stop);
  if (!radiance) return passOn(radiance.error());
  if (progress.stopRequested()) return stopped();
  return pictureOf(radiance->rows(), factsOf(*view.combined), view.combined->report->noisier);
}

} // namespace ml
