// SPDX-License-Identifier: GPL-3.0-or-later
#include "model/join_view.h"

#include "deliver/rows_file.h"
#include "ingest/load_frame.h"
#include "model/pictures.h"
#include "pipeline/assemble.h"
#include "pipeline/position_views.h"
#include "session/locations.h"
#include "session/radiance_history.h"
#include "tone/facts_text.h"

#include <algorithm>
#include <cmath>

namespace ml {
namespace {

/// The sets that take part, and how each was turned by hand.
struct Taking {
  std::vector<FileGroup> groups;
  std::vector<Angles> turned;
};

Result<Taking> takingPart(const View& view, const CombineOptions& options) {
  Taking out;
  for (const int index : view.positions()) {
    const FrameSet& set = view.sets[std::size_t(index)];
    if (std::find(options.unused.begin(), options.unused.end(), set.name) != options.unused.end()) continue;
    FileGroup group;
    group.name = set.label.empty() ? set.name : set.label;
    for (const auto& member : set.frames) {
      if (!member.used) continue;
      auto facts = inspectFile(member.file);
      if (!facts) return passOn(facts.error());
      group.files.push_back(std::move(*facts));
    }
    if (group.files.empty()) continue;
    out.groups.push_back(std::move(group));
    const auto turned = options.joining.turned.find(set.name);
    out.turned.push_back(turned == options.joining.turned.end() ? Angles{} : turned->second);
  }
  return out;
}

/// The part of the whole that is kept, and the same at screen size: means of blocks, gathered as rows come by.
class Kept {
public:
  explicit Kept(const Roi& inside)
      : inside_(inside),
        factor_(std::max(1, (std::max(inside.width, inside.height) + kPreviewEdge - 1) / kPreviewEdge)),
        preview_(std::max(1, inside.width / factor_), std::max(1, inside.height / factor_), 3) {
    preview_.fill(0);
  }
  [[nodiscard]] const Image<float>& preview() const { return preview_; }
  /// Rows of the whole from `y` on; returns those inside, without gaps.
  Image<float> take(int y, ImageView<const float> rows) {
    const int top = std::max(y, inside_.y), bottom = std::min(y + rows.height, inside_.y + inside_.height);
    if (bottom <= top) return {};
    Image<float> out(inside_.width, bottom - top, 3);
    for (int v = top; v < bottom; ++v) {
      std::copy_n(rows.at(inside_.x, v - y), 3 * inside_.width, out.row(v - top));
      const int to = (v - inside_.y) / factor_;
      if (to >= preview_.height()) continue;
      const float* from = out.row(v - top);
      for (int x = 0; x < preview_.width() * factor_; ++x)
        for (int c = 0; c < 3; ++c) preview_.at(x / factor_, to)[c] += from[3 * x + c] / float(factor_ * factor_);
    }
    return out;
  }

private:
  Roi inside_;
  int factor_;
  Image<float> preview_;
};

/// The edge of a position's frame on the kept part of the canvas, 0..1 of it.
std::vector<std::array<double, 2>> outlineOf(const Assembly& a, std::size_t position, const Roi& inside) {
  const Arrangement all{
      a.arrangement.kind, a.arrangement.width, a.arrangement.height, {a.positions[position].pose}, {0}, {0},
      a.arrangement.bend};
  const CameraGeometry camera = all.camera(0);
  std::vector<std::array<double, 2>> out;
  constexpr int kSteps = 12;
  const auto add = [&](double u, double v) {
    double x, y;
    if (a.canvas.place(camera.ray(u * (all.width - 1), v * (all.height - 1)), x, y))
      out.push_back({(x - inside.x) / inside.width, (y - inside.y) / inside.height});
  };
  for (int i = 0; i < kSteps; ++i) add(double(i) / kSteps, 0);
  for (int i = 0; i < kSteps; ++i) add(1, double(i) / kSteps);
  for (int i = 0; i < kSteps; ++i) add(1 - double(i) / kSteps, 1);
  for (int i = 0; i < kSteps; ++i) add(0, 1 - double(i) / kSteps);
  return out;
}

std::shared_ptr<const CombineReport> reportOf(const Assembly& a, const std::vector<FileGroup>& groups,
                                              const Roi& inside) {
  auto report = std::make_shared<CombineReport>();
  for (const auto& group : groups)
    for (const auto& file : group.files) {
      CombineReport::Frame frame;
      frame.file = file.path;
      frame.settings = file.settings;
      report->frames.push_back(std::move(frame));
    }
  for (std::size_t i = 0; i < a.positions.size(); ++i) {
    const auto& p = a.positions[i];
    report->positions.push_back(
        {p.name, p.place.row, p.place.column, p.plane, p.fit.residual, p.fit.overlap, outlineOf(a, i, inside)});
  }
  report->width = report->referenceWidth = inside.width;
  report->height = report->referenceHeight = inside.height;
  report->crop = {0, 0, inside.width, inside.height};
  report->focal = a.canvas.focal;
  report->plumb = a.facts.plumb;
  report->ev100OfUnit = a.facts.ev100OfUnit;
  report->method = "positions";
  report->metered.ties = a.facts.metered;
  report->remarks = a.remarks;
  report->verdict = verdict(a);
  return report;
}

AssembleOptions assembling(const CombineOptions& options, const Taking& taking) {
  AssembleOptions out;
  out.combine = options;
  out.combine.method = CombineMethod::Radiance;
  out.combine.choices.clear(), out.combine.darker.clear(), out.combine.unused.clear();
  out.turned = taking.turned;
  return out;
}

} // namespace

Result<JoinedLook> lookAtJoined(const View& view, const CombineOptions& options, int edge, const Progress& progress) {
  const auto taking = takingPart(view, options);
  if (!taking) return passOn(taking.error());
  AssembleOptions small = assembling(options, *taking);
  small.combine.edge = edge;
  const auto assembly = assembleGroups(taking->groups, small, progress);
  if (!assembly) return passOn(assembly.error());
  const Roi inside = coveredRectangle(assembly->seams, assembly->canvas);
  JoinedLook out{Image<float>(inside.width, inside.height, 3), assembly->facts};
  const auto take = [&](int y, ImageView<const float> rows) {
    for (int v = std::max(y, inside.y); v < std::min(y + rows.height, inside.y + inside.height); ++v)
      std::copy_n(rows.at(inside.x, v - y), 3 * inside.width, out.radiance.row(v - inside.y));
    return true;
  };
  if (!drawAssembly(*assembly, take, progress)) return stopped();
  return out;
}

Result<CombinedView> joinView(const View& view, const CombineOptions& options, const Progress& progress) {
  const auto taking = takingPart(view, options);
  if (!taking) return passOn(taking.error());
  AssembleOptions whole = assembling(options, *taking);
  whole.keep = joiningFolder(view);
  auto assembly = assembleGroups(taking->groups, whole, progress.part(0, 0.75));
  if (!assembly) return passOn(assembly.error());
  const Roi inside = coveredRectangle(assembly->seams, assembly->canvas);
  constexpr double kBytesAPixel = 6; // three half floats, hardly smaller when packed
  if (auto room = checkSpace(view.folder, kBytesAPixel * inside.width * inside.height); !room)
    return passOn(room.error());
  Kept kept(inside);
  const std::string stamp = newStamp();
  RadianceOptions radiance;
  radiance.notes = textOf(assembly->facts);
  auto written = deliverRadianceRows(historyFile(view, stamp), inside.width, inside.height, radiance,
                                     [&](const RowsWriter& write) -> Result<void> {
                                       Result<void> said;
                                       const bool done = drawAssembly(
                                           *assembly,
                                           [&](int y, ImageView<const float> rows) {
                                             const Image<float> part = kept.take(y, rows);
                                             if (!part.empty()) said = write(part.view());
                                             return bool(said);
                                           },
                                           progress.part(0.75, 1));
                                       if (!said) return said;
                                       return done ? Result<void>{} : Result<void>(stopped());
                                     });
  if (!written) return passOn(written.error());
  CombinedView made;
  CombineRecord record;
  record.options = options;
  record.frames = view.frameNames(CombineMethod::Positions);
  record.ev100OfUnit = assembly->facts.ev100OfUnit;
  record.metadataFrom = {assembly->metadataFrom.string()};
  record.verdict = verdict(*assembly);
  record.report = reportOf(*assembly, taking->groups, inside);
  made.outcome = {std::move(record), stamp};
  made.picture = pictureOf(kept.preview().view(), assembly->facts, nullptr);
  return made;
}

} // namespace ml
