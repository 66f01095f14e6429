// SPDX-License-Identifier: GPL-3.0-or-later
#include "pipeline/position_views.h"

#include "base/phrase.h"
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

/// Fine structure of blocks of a picture, as energy of what its light is beyond its neighbours', log 2.
Image<float> fineStructure(const Image<std::uint8_t>& picture) {
  constexpr int kBlock = 32;
  Image<float> out(picture.width() / kBlock, picture.height() / kBlock, 1);
  const auto at = [&](int x, int y) { return std::sqrt(float(picture.at(x, y)[1])); };
  for (int by = 0; by < out.height(); ++by)
    for (int bx = 0; bx < out.width(); ++bx) {
      double energy = 0;
      for (int y = std::max(1, by * kBlock); y < std::min(picture.height() - 1, (by + 1) * kBlock); ++y)
        for (int x = std::max(1, bx * kBlock); x < std::min(picture.width() - 1, (bx + 1) * kBlock); ++x) {
          const double d = 4 * at(x, y) - at(x - 1, y) - at(x + 1, y) - at(x, y - 1) - at(x, y + 1);
          energy += d * d;
        }
      *out.at(bx, by) = float(std::log2(energy / (kBlock * kBlock) + 1e-3));
    }
  return out;
}

/// Is each of the two sharper than the other somewhere? A picture that is only softer is not; nor is what moved.
bool sharpElsewhere(const Image<float>& first, const Image<float>& second) {
  constexpr float kSharper = 1.8f, kStructure = 0.f; // log 2 of energy; less is the noise of a small picture
  constexpr double kShare = 0.06;
  if (first.empty() || first.size() != second.size()) return false;
  int structured = 0, firstSharper = 0, secondSharper = 0;
  for (std::size_t i = 0; i < first.size(); ++i) {
    const float p = first.data()[i], q = second.data()[i];
    if (std::max(p, q) < kStructure) continue;
    ++structured;
    firstSharper += p - q > kSharper;
    secondSharper += q - p > kSharper;
  }
  return structured > 20 && std::min(firstSharper, secondSharper) > kShare * structured;
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
  struct Fine {
    Image<float> structure;
    Signature signature;
  };
  /// Of a picture large enough to see what is sharp.
  [[nodiscard]] const Fine& fine(std::size_t set) {
    constexpr int kFineEdge = 2400;
    const auto found = fine_.find(set);
    if (found != fine_.end()) return found->second;
    const auto picture = loadSmallPicture(middleOf(grouping_.sets[set]).path, kFineEdge);
    return fine_.emplace(set, picture ? Fine{fineStructure(*picture), signatureOf(*picture)} : Fine{}).first->second;
  }

private:
  const Grouping& grouping_;
  std::map<std::size_t, Image<float>> pictures_;
  std::map<std::size_t, Fine> fine_;
};

/// Lamps that were lit lend structure to some places and take it from others, as another focus does.
bool arePlanes(const Looks::Fine& a, const Looks::Fine& b) {
  return !a.structure.empty() && !b.structure.empty() && sharpElsewhere(a.structure, b.structure) &&
         !underAnotherLight(a.signature, b.signature);
}

enum class Beside { Apart, Neighbour, SameView };

/// Can the two be joined, and do they show different views?
Beside besideOf(const Image<float>& a, const Image<float>& b, const Progress& progress) {
  if (a.empty() || a.width() != b.width() || a.height() != b.height()) return Beside::Apart;
  const LightCodes codes = LightCodes::of(a.view());
  std::vector<Image<std::uint16_t>> pictures;
  pictures.push_back(toLightCodes(a.view(), 1, codes));
  pictures.push_back(toLightCodes(b.view(), 1, codes));
  const auto arranged = arrangePositions(pictures, codes, {"a", "b"}, {}, {progress.stop, {}});
  if (!arranged) return Beside::Apart;
  return arranged->fits[0].overlap < kSameView ? Beside::Neighbour : Beside::SameView;
}

} // namespace

std::vector<PositionView> positionViews(const Grouping& grouping, const Progress& progress) {
  Looks looks(grouping);
  std::vector<PositionView> out;
  for (std::size_t i = 0; i < grouping.sets.size(); ++i) {
    const FileGroup& set = grouping.sets[i];
    bool belongs = false, plane = false;
    if (!out.empty() && !progress.stopRequested()) {
      const auto& before = out.back().sets;
      const FileGroup& last = grouping.sets[before.back()];
      const auto gap = secondsBetween(last.files.back(), set.files.front());
      const bool near = gap && *gap >= 0 && *gap < kPositionGapSeconds;
      if (near && last.files[0].path.parent_path() == set.files[0].path.parent_path() && sameExposures(last, set))
        for (std::size_t k = 0; k < std::min(before.size(), kTried) && !belongs; ++k)
          switch (besideOf(looks.of(before[before.size() - 1 - k]), looks.of(i), progress)) {
          case Beside::Neighbour: belongs = true; break;
          case Beside::SameView:
            belongs = plane = arePlanes(looks.fine(before[before.size() - 1 - k]), looks.fine(i));
            break;
          case Beside::Apart: break;
          }
    }
    if (belongs)
      out.back().sets.push_back(i), out.back().planes.push_back(plane);
    else
      out.push_back({{i}, {false}});
    progress.at(phrase("Look for views of several positions"), double(i + 1) / double(grouping.sets.size()));
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
      set.reason = view.planes[i] ? phrase("it shows the view before it sharp at another distance: a plane of focus")
                                  : phrase("it can be joined with the view before it");
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
