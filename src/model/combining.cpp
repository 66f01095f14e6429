// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/combining.h"

#include "base/phrase.h"
#include "deliver/deliver.h"
#include "ingest/load_frame.h"
#include "model/join_view.h"
#include "session/locations.h"
#include "session/radiance_history.h"

namespace ml {
namespace {

CombineRecord recordOf(const Combined& combined, const View& view, const CombineOptions& options) {
  CombineRecord record;
  record.options = options;
  record.options.sphere = combined.sphere;
  record.frames = view.frameNames();
  record.ev100OfUnit = combined.ev100OfUnit;
  record.metadataFrom = {combined.frames[std::size_t(combined.reference)].path.string()};
  record.verdict = verdict(combined);
  record.report = std::make_shared<const CombineReport>(combineReport(combined));
  return record;
}

} // namespace

CombineOptions optionsOf(const View& view) {
  if (view.combined) return view.combined->options;
  CombineOptions out;
  if (view.positions().size() > 1) out.method = CombineMethod::Positions;
  return out;
}

void putOutcome(View& view, const CombineOutcome& outcome) {
  view.combined = outcome.record;
  view.radianceStamp = outcome.stamp;
}

Result<CombinedView> combineView(const View& view, const CombineOptions& options, const Progress& progress) {
  if (options.method == CombineMethod::Positions) return joinView(view, options, progress);
  if (const auto facts = inspectFile(view.frames.front())) { // what cannot be read, combining will say
    constexpr double kBytesAPixel = 6;                       // three half floats, hardly smaller when packed
    if (auto room = checkSpace(view.folder, kBytesAPixel * facts->width * facts->height); !room)
      return passOn(room.error());
  }
  CombineOptions asked = options;
  asked.lentFiles = view.lentFiles(options.lent);
  auto combined = combineFiles(view.frames, asked, progress);
  if (!combined) return passOn(combined.error());
  const std::string stamp = newStamp();
  RadianceOptions radiance;
  radiance.notes = notesOf(*combined);
  radiance.stop = progress.stop;
  progress.at(phrase("Keep the radiance"), 1);
  if (auto kept = deliverRadiance(combined->radiance.view(), historyFile(view, stamp), radiance); !kept)
    return passOn(kept.error());
  CombinedView made{{recordOf(*combined, view, options), stamp}, nullptr};
  made.picture = pictureOf(combined->radiance.view(), sceneFacts(*combined), made.outcome.record->report->noisier);
  return made;
}

} // namespace ml
