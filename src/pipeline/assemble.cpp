// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/assemble.h"

#include "base/atomic_file.h"
#include "base/large_memory.h"
#include "base/parallel.h"
#include "base/phrase.h"
#include "deliver/deliver.h"
#include "deliver/rows_file.h"
#include "ingest/load_frame.h"
#include "pipeline/position_light.h"
#include "pipeline/sphere_frames.h"
#include "positions/focus.h"
#include "tone/facts_text.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <functional>
#include <numbers>

namespace ml {
namespace fs = std::filesystem;
namespace {

/// Combined now, or before.
Result<PositionLight> lightOnce(const FileGroup& group, const CombineOptions& options, const KeptLight& kept,
                                const Progress& progress) {
  if (auto before = kept.find(group, options, progress)) return std::move(*before);
  auto light = positionLight(group, options, progress);
  if (light) kept.keep(group, options, *light);
  return light;
}

using TakeLight = std::function<void(std::size_t position, PositionLight&&)>;

/// One position after the other: each is done with before the next is made.
Result<void> lightInTurn(const std::vector<FileGroup>& groups, const CombineOptions& options, const KeptLight& kept,
                         const TakeLight& take, const Progress& progress) {
  const double n = double(groups.size());
  for (std::size_t i = 0; i < groups.size(); ++i) {
    auto light = lightOnce(groups[i], options, kept, progress.part(double(i) / n, double(i + 1) / n));
    if (!light) return passOn(light.error());
    take(i, std::move(*light));
  }
  return {};
}

/// A set of small frames keeps one core busy, three frames two of them at times: several sets at once keep all.
Result<void> lightAtOnce(const std::vector<FileGroup>& groups, const CombineOptions& options, const KeptLight& kept,
                         const TakeLight& take, const Progress& progress) {
  std::vector<Result<PositionLight>> lights(groups.size());
  std::atomic<int> done{0};
  forEachBand(
      int(groups.size()), progress.stop,
      [&](const Band& band) {
        const OnThisThread alone;
        const auto i = std::size_t(band.begin);
        lights[i] = lightOnce(groups[i], options, kept, {progress.stop, {}});
        progress.at(phrase("Combine the positions"), double(++done) / double(groups.size()));
      },
      1);
  if (progress.stopRequested()) return stopped();
  for (std::size_t i = 0; i < groups.size(); ++i) {
    if (!lights[i]) return passOn(lights[i].error());
    take(i, std::move(*lights[i]));
  }
  return {};
}

Result<void> readPositions(const std::vector<FileGroup>& groups, const AssembleOptions& options,
                           const Progress& progress, Assembly& out, double& focalKnown) {
  const KeptLight kept(options.keep);
  kept.forgetOtherWays(options.combine);
  double firstUnit = 0;
  const auto take = [&](std::size_t i, PositionLight&& light) {
    AssembledPosition position;
    for (const auto& file : groups[i].files) position.files.push_back(file.path);
    position.name = groups[i].name;
    position.verdict = light.verdict;
    const auto view = light.radiance.view();
    if (i == 0) {
      out.codes = LightCodes::of(view);
      out.metadataFrom = light.metadataFrom;
      focalKnown = light.focalKnown;
      firstUnit = light.facts.ev100OfUnit;
      out.facts = light.facts;
    }
    const double stops = light.facts.ev100OfUnit - firstUnit;
    out.pictures.push_back(toLightCodes(view, float(std::isfinite(stops) ? std::exp2(stops) : 1), out.codes));
    out.positions.push_back(std::move(position));
  };
  const auto light = options.combine.edge > 0 ? lightAtOnce : lightInTurn;
  return light(groups, options.combine, kept, take, progress);
}

/// Planes of focus become one view each; the arrangement keeps the views alone.
void joinPlanes(const Arrangement& all, Assembly& out, const Progress& progress) {
  const auto views = viewsOf(all);
  Arrangement kept = all;
  kept.poses.clear(), kept.plane.clear(), kept.view.clear();
  std::vector<Image<std::uint16_t>> pictures;
  for (const auto& view : views) {
    std::size_t target = view[0];
    if (view.size() > 1) {
      FocusJoined joined = joinFocus(all, view, out.pictures, progress);
      target = joined.target;
      pictures.push_back(std::move(joined.picture));
    } else {
      pictures.push_back(std::move(out.pictures[target]));
    }
    kept.poses.push_back(all.poses[target]);
    kept.plane.push_back(0);
    kept.view.push_back(int(kept.view.size()));
  }
  if (views.size() == 1) kept.poses[0].turn = kIdentity3; // its frame as it is
  out.arrangement = std::move(kept);
  out.pictures = std::move(pictures);
}

/// A shifted frame is shifted by as much as the middle of the picture is.
void turnByHand(Arrangement& a, const std::vector<Angles>& turned) {
  const auto along = [](double degrees) { return std::tan(std::clamp(degrees, -60.0, 60.0) * std::numbers::pi / 180); };
  for (std::size_t i = 0; i < std::min(turned.size(), a.poses.size()); ++i) {
    Pose& pose = a.poses[i];
    if (a.kind == PositionKind::Turned)
      pose.turn = multiply(pose.turn, turnOf(turned[i]));
    else
      pose.shiftX += pose.focal * along(turned[i].yaw), pose.shiftY -= pose.focal * along(turned[i].pitch);
  }
}

/// Of each position. Errors: InvalidArgument, when nobody has a file of that name.
Result<std::vector<Angles>> turnedOf(const std::vector<FileGroup>& groups, const AssembleOptions& options) {
  std::vector<Angles> out = options.turned;
  out.resize(std::max(out.size(), groups.size()));
  for (const auto& [name, angles] : options.turnedNamed) {
    const auto holds = [&](const FileFacts& file) { return file.path.filename() == name || file.path.stem() == name; };
    const auto group = std::find_if(groups.begin(), groups.end(), [&](const FileGroup& g) {
      return std::any_of(g.files.begin(), g.files.end(), holds);
    });
    if (group == groups.end())
      return fail(ErrorCode::InvalidArgument,
                  phrase("No position has a file `{}`; name one of the position that is to be turned.", name));
    out[std::size_t(group - groups.begin())] = angles;
  }
  return out;
}

std::vector<FileGroup> groupsOf(const std::vector<fs::path>& paths, std::vector<LeftOut>& leftOut,
                                const Progress& progress) {
  std::vector<fs::path> frames;
  std::vector<FileGroup> out;
  auto files = collectFiles(paths, leftOut, Subfolders::Read, progress.stop);
  // A folder of radiance pictures and nothing else: they are what is meant.
  if (files.empty())
    for (const auto& left : leftOut)
      if (left.companion && holdsRadiance(left.path)) files.push_back(left.path);
  for (const auto& file : files) {
    if (!isRadiance(file)) {
      frames.push_back(file);
      continue;
    }
    FileFacts facts;
    facts.path = file;
    out.push_back({file.stem().string(), {facts}, GroupKind::Single, {}});
  }
  if (frames.empty()) return out;
  Grouping grouping = groupFiles(frames, progress);
  lookAtGroups(grouping, progress);
  leftOut.insert(leftOut.end(), grouping.leftOut.begin(), grouping.leftOut.end());
  for (auto& group : grouping.sets) out.push_back(std::move(group));
  return out;
}

} // namespace

namespace {

/// Equirectangular frames hold twice as many degrees across as down, and their edges meet; circles of two fisheyes lie
/// side by side.
bool looksLikeSphere(const FileGroup& group) {
  const FileFacts& file = group.files[group.files.size() / 2];
  if (file.width <= 0 || file.width != 2 * file.height) return false;
  const auto frame = loadFrame(file.path);
  return frame && (showsAllDirections(*frame) || fisheyePairOf(*frame));
}

Result<Assembly> assembleSphere(const FileGroup& group, const AssembleOptions& options, const Progress& progress) {
  CombineOptions combine = options.combine;
  combine.sphere = true;
  combine.crop = CropMode::Reference;
  auto light = positionLight(group, combine, progress);
  if (!light) return passOn(light.error());
  const int width = light->radiance.width(), height = light->radiance.height();
  if (width != 2 * height)
    return fail(ErrorCode::InvalidArgument, phrase("`{}` has {} x {} pixels; a sphere is twice as wide as high.",
                                                   group.files[0].path.string(), width, height));
  Assembly out;
  out.sphere = true;
  AssembledPosition position;
  for (const auto& file : group.files) position.files.push_back(file.path);
  position.name = group.name;
  position.verdict = light->verdict;
  position.fit.overlap = 1;
  position.pose.focal = width / (2 * std::numbers::pi);
  out.positions.push_back(std::move(position));
  out.codes = LightCodes::of(light->radiance.view());
  out.pictures.push_back(toLightCodes(light->radiance.view(), 1, out.codes));
  out.canvas = {Projection::Equirectangular,
                width / (2 * std::numbers::pi),
                (width - 1) / 2.0,
                (height - 1) / 2.0,
                width,
                height,
                true};
  out.facts = light->facts;
  out.facts.sphere = out.facts.plumb = true;
  out.metadataFrom = light->metadataFrom;
  return out;
}

/// Rows of a sphere as they were combined.
bool drawSphere(const Assembly& a, const RowsTaken& taken, const Progress& progress) {
  constexpr int kRows = 256;
  const std::vector<float> light = a.codes.table();
  Image<float> band(a.canvas.width, kRows, 3);
  for (int y = 0; y < a.canvas.height; y += kRows) {
    const int rows = std::min(kRows, a.canvas.height - y);
    for (int v = 0; v < rows; ++v)
      for (int i = 0; i < 3 * a.canvas.width; ++i)
        band.row(v)[i] = std::max(1e-30f, light[a.pictures[0].row(y + v)[i]]);
    if (progress.stopRequested() || !taken(y, band.view().crop({0, 0, a.canvas.width, rows}))) return false;
  }
  return true;
}

} // namespace

bool drawAssembly(const Assembly& assembly, const RowsTaken& taken, const Progress& progress) {
  return assembly.sphere ? drawSphere(assembly, taken, progress) : drawJoined(assembly.view(), taken, progress);
}

Result<Assembly> assembleGroups(const std::vector<FileGroup>& groups, const AssembleOptions& options,
                                const Progress& progress) {
  const MemoryReuse reuse;
  const bool sphere = options.kind == PositionWish::Sphere ||
                      (options.kind == PositionWish::Auto && groups.size() == 1 && looksLikeSphere(groups[0]));
  if (sphere && groups.size() > 1)
    return fail(ErrorCode::InvalidArgument, phrase("The files belong to {} spheres (`{}`, `{}`); name those of one.",
                                                   groups.size(), groups[0].name, groups[1].name));
  if (sphere && groups.size() == 1) return assembleSphere(groups[0], options, progress);
  if (groups.size() < 2)
    return fail(
        ErrorCode::TooFewFrames,
        groups.empty()
            ? phrase("There is no frame in what was named; give a folder of frames or the frames themselves.")
            : phrase("All files belong to one position (`{}`); to combine them use `combine`.", groups[0].name));
  if (groups.size() > std::size_t(kMostPositions))
    return fail(ErrorCode::InvalidArgument,
                phrase("{} positions are more than can be joined; name at most {}.", groups.size(), kMostPositions));
  const auto turned = turnedOf(groups, options);
  if (!turned) return passOn(turned.error());
  Assembly out;
  const bool firstLook = options.combine.edge > 0;
  ArrangeOptions arranging;
  arranging.kind = options.kind;
  arranging.firstLook = firstLook;
  if (auto read = readPositions(groups, options, progress.part(0, 0.6), out, arranging.focalKnown); !read)
    return passOn(read.error());
  std::vector<std::string> names;
  for (const auto& position : out.positions) names.push_back(position.files[0].filename().string());
  auto arranged = arrangePositions(out.pictures, out.codes, names, arranging, progress.part(0.6, 0.8));
  if (!arranged) return passOn(arranged.error());
  levelAndCentre(arranged->arrangement);
  if (const Angles& facing = options.combine.joining.facing; !(facing == Angles{}))
    turnAll(arranged->arrangement, transposed(turnOf(facing)));
  turnByHand(arranged->arrangement, *turned);
  const auto grid = gridOf(arranged->arrangement);
  for (std::size_t i = 0; i < out.positions.size(); ++i) {
    AssembledPosition& position = out.positions[i];
    position.place = grid[i];
    position.plane = arranged->arrangement.plane[i];
    position.pose = arranged->arrangement.poses[i];
    position.fit = arranged->fits[i];
  }
  out.remarks = arranged->remarks;
  joinPlanes(arranged->arrangement, out, progress.part(0.8, 0.85));
  if (progress.stopRequested()) return stopped();
  auto canvas = canvasFor(out.arrangement, options.combine.joining.projection);
  if (!canvas) return passOn(canvas.error());
  out.canvas = *canvas;
  out.facts.plumb = out.canvas.projection != Projection::Perspective;
  out.balance = balanceLight(out.arrangement, out.pictures, out.codes, out.canvas);
  out.seams = laySeams(out.placed(), firstLook ? kSeamPixelsOfLook : kSeamPixels, progress.part(0.85, 1));
  if (progress.stopRequested()) return stopped();
  return out;
}

namespace {

std::vector<FileGroup> eachAlone(const FileGroup& group) {
  std::vector<FileGroup> out;
  for (const auto& file : group.files) out.push_back({file.path.stem().string(), {file}, GroupKind::Single, {}});
  return out;
}

} // namespace

Result<Assembly> assembleFiles(const std::vector<fs::path>& paths, const AssembleOptions& options,
                               const Progress& progress) {
  std::vector<LeftOut> leftOut;
  const auto groups = groupsOf(paths, leftOut, progress.part(0, 0.02));
  if (const auto missed = withoutCompanions(leftOut); groups.empty() && !missed.empty())
    return passOn(missed.front().reason);
  // One set may also be one frame of each position, exposed as the camera thought fit.
  const bool maybeSingles = groups.size() == 1 && groups[0].files.size() > 1 && options.kind != PositionWish::Sphere &&
                            !looksLikeSphere(groups[0]);
  auto out = assembleGroups(maybeSingles ? eachAlone(groups[0]) : groups, options, progress.part(0.02, 1));
  if (maybeSingles && !out && out.error().code == ErrorCode::CannotAlign)
    return fail(ErrorCode::CannotAlign, phrase("All files look like one set of frames (`{}`), to be combined by "
                                               "`combine`; as positions of their own they cannot be joined: {}",
                                               groups[0].name, out.error().message));
  if (maybeSingles && out && out->pictures.size() == 1)
    return fail(ErrorCode::TooFewFrames,
                phrase("All files show one view (`{}`); to combine its exposures use `combine`.", groups[0].name));
  if (out) out->leftOut = std::move(leftOut);
  return out;
}

Result<void> writeAssembly(const Assembly& assembly, const fs::path& file, const Progress& progress,
                           const RowsTaken& seen) {
  RadianceOptions options;
  options.notes = textOf(assembly.facts);
  options.metadataFrom = assembly.metadataFrom;
  return deliverRadianceRows(file, assembly.canvas.width, assembly.canvas.height, options,
                             [&](const RowsWriter& write) {
                               Result<void> written;
                               const bool done = drawAssembly(
                                   assembly,
                                   [&](int y, ImageView<const float> rows) {
                                     if (seen && !seen(y, rows)) return false;
                                     written = write(rows);
                                     return bool(written);
                                   },
                                   progress);
                               if (!written) return written;
                               return done ? Result<void>{} : Result<void>(stopped());
                             });
}

namespace {

std::string megapixels(const Canvas& canvas) {
  const double count = double(canvas.width) * canvas.height / 1e6;
  return count < 10 ? phrase("{:.1f} megapixels", count) : phrase("{:.0f} megapixels", count);
}

} // namespace

std::string verdict(const Assembly& a) {
  if (a.sphere)
    return phrase("One sphere of {} x {} pixels ({}). {}", a.canvas.width, a.canvas.height, megapixels(a.canvas),
                  a.positions[0].verdict);
  double worst = 0;
  int planes = 0;
  for (const auto& p : a.positions) {
    worst = std::max(worst, p.fit.residual);
    planes = std::max(planes, p.plane + 1);
  }
  std::string text =
      phrase("{} positions{} joined to {} x {} pixels ({}, {}), each within {:.2f} "
             "pixels of its neighbours",
             a.pictures.size(), planes > 1 ? phrase(", {} planes of focus,", planes) : "", a.canvas.width,
             a.canvas.height, megapixels(a.canvas), phrase(nameOf(a.canvas.projection)), worst);
  text += ".";
  for (const auto& remark : a.remarks) text += " " + remark;
  return text;
}

} // namespace ml
