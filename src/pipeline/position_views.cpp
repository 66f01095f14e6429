// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/position_views.h"

#include "image/colour.h"
#include "ingest/small_picture.h"
#include "positions/arrange.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace ml {
namespace {

constexpr int kEdge = 640;         ///< Longest side of the pictures that are tried.
constexpr std::size_t kTried = 12; ///< Earlier positions a further one is tried against.
constexpr double kSameView = 0.8;  ///< Overlap from which a set shows the view before it again.

const FileFacts& middleOf(const FileGroup& group) {
  std::vector<const FileFacts*> order;
  for (const auto& file : group.files) order.push_back(&file);
  std::stable_sort(order.begin(), order.end(), [](const auto* a, const auto* b) {
    return a->settings.time.value * a->settings.iso.value < b->settings.time.value * b->settings.iso.value;
  });
  return *order[order.size() / 2];
}

bool sameExposures(const FileGroup& a, const FileGroup& b) {
  if (a.files.size() != b.files.size()) return false;
  for (std::size_t i = 0; i < a.files.size(); ++i) {
    const auto &p = a.files[i].settings, &q = b.files[i].settings;
    if (std::abs(std::log2(p.time.value / q.time.value)) > 0.1 || p.aperture.value != q.aperture.value ||
        p.iso.value != q.iso.value)
      return false;
  }
  return true;
}

/// Small pictures by set, looked at once.
class Looks {
public:
  explicit Looks(const Grouping& grouping) : grouping_(grouping) {}
  [[nodiscard]] const Image<float>& of(std::size_t set) {
    const auto found = pictures_.find(set);
    if (found != pictures_.end()) return found->second;
    Image<float> light;
    if (const auto small = loadSmallPicture(middleOf(grouping_.sets[set]).path, kEdge)) {
      light = Image<float>(small->width(), small->height(), 3);
      for (std::size_t i = 0; i < light.size(); ++i) light.data()[i] = float(srgbDecode(small->data()[i] / 255.0));
    }
    return pictures_.emplace(set, std::move(light)).first->second;
  }

private:
  const Grouping& grouping_;
  std::map<std::size_t, Image<float>> pictures_;
};

/// Can the two be joined, and do they show different views?
bool areNeighbours(const Image<float>& a, const Image<float>& b, const Progress& progress) {
  if (a.empty() || a.width() != b.width() || a.height() != b.height()) return false;
  const LightCodes codes = LightCodes::of(a.view());
  std::vector<Image<std::uint16_t>> pictures;
  pictures.push_back(toLightCodes(a.view(), 1, codes));
  pictures.push_back(toLightCodes(b.view(), 1, codes));
  const auto arranged = arrangePositions(pictures, codes, {"a", "b"}, {}, {progress.stop, {}});
  return arranged && arranged->fits[0].overlap < kSameView;
}

} // namespace

std::vector<PositionView> positionViews(const Grouping& grouping, const Progress& progress) {
  Looks looks(grouping);
  std::vector<PositionView> out;
  for (std::size_t i = 0; i < grouping.sets.size(); ++i) {
    const FileGroup& set = grouping.sets[i];
    bool belongs = false;
    if (!out.empty() && !progress.stopRequested()) {
      const auto& before = out.back().sets;
      const FileGroup& last = grouping.sets[before.back()];
      const auto gap = secondsBetween(last.files.back(), set.files.front());
      const bool near = gap && *gap >= 0 && *gap < kPositionGapSeconds;
      if (near && last.files[0].path.parent_path() == set.files[0].path.parent_path() && sameExposures(last, set))
        for (std::size_t k = 0; k < std::min(before.size(), kTried) && !belongs; ++k)
          belongs = areNeighbours(looks.of(before[before.size() - 1 - k]), looks.of(i), progress);
    }
    if (belongs)
      out.back().sets.push_back(i);
    else
      out.push_back({{i}});
    progress.at("Look for views of several positions", double(i + 1) / double(grouping.sets.size()));
  }
  return out;
}

void markPositions(Grouping& grouping, const Progress& progress) {
  for (FileGroup& set : grouping.sets)
    if (set.kind == GroupKind::Panorama) set.kind = set.files.size() == 1 ? GroupKind::Single : GroupKind::Set;
  for (const PositionView& view : positionViews(grouping, progress))
    for (std::size_t i = 1; i < view.sets.size(); ++i) {
      FileGroup& set = grouping.sets[view.sets[i]];
      set.kind = GroupKind::Panorama;
      set.reason = "it can be joined with the view before it";
    }
}

Roi coveredRectangle(const Seams& seams, const Canvas& canvas) {
  // Heights of covered columns above each row, and the largest rectangle under each profile of heights.
  const int w = seams.owner.width(), h = seams.owner.height();
  std::vector<int> high(std::size_t(w) + 1, 0);
  Roi best;
  for (int y = 0; y < h; ++y) {
    for (int x = 0; x < w; ++x) high[std::size_t(x)] = *seams.owner.at(x, y) != 0 ? high[std::size_t(x)] + 1 : 0;
    std::vector<int> open; // columns whose rectangle is still growing, rising
    for (int x = 0; x <= w; ++x) {
      while (!open.empty() && high[std::size_t(open.back())] >= high[std::size_t(x)]) {
        const int height = high[std::size_t(open.back())];
        open.pop_back();
        const int left = open.empty() ? 0 : open.back() + 1;
        if (double(height) * (x - left) > double(best.width) * best.height)
          best = {left, y - height + 1, x - left, height};
      }
      open.push_back(x);
    }
  }
  // Cells at the edge are covered in part only.
  const double fx = double(canvas.width) / w, fy = double(canvas.height) / h;
  const int left = best.x == 0 ? 0 : int(std::ceil((best.x + 1) * fx)),
            right = best.x + best.width == w ? canvas.width : int((best.x + best.width - 1) * fx);
  const int top = best.y == 0 ? 0 : int(std::ceil((best.y + 1) * fy)),
            bottom = best.y + best.height == h ? canvas.height : int((best.y + best.height - 1) * fy);
  if (right <= left || bottom <= top) return {0, 0, canvas.width, canvas.height};
  return {left, top, right - left, bottom - top};
}

} // namespace ml
