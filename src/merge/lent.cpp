// SPDX-License-Identifier: GPL-3.0-or-later
#include "merge/lent.h"

#include "mosaic/bayer.h"

#include <algorithm>
#include <array>

namespace ml {
namespace {

bool holds(const std::vector<int>& list, int value) {
  return std::find(list.begin(), list.end(), value) != list.end();
}

/// What is asked of the set's own frames, which count among themselves.
MergeOptions ownOptions(const MergeOptions& options, const std::vector<int>& own) {
  const auto among = [&](int frame) { return int(std::find(own.begin(), own.end(), frame) - own.begin()); };
  MergeOptions out = options;
  out.lent.clear();
  out.filling.clear();
  out.choices.clear();
  out.reference = among(options.reference);
  for (SourceChoice choice : options.choices) {
    if (!holds(own, choice.frame)) continue;
    choice.frame = among(choice.frame);
    out.choices.push_back(std::move(choice));
  }
  return out;
}

/// Cells that each lent frame was given; later words win, whoever they give a place to.
std::vector<CellMask> givenTo(const MergeOptions& options, const std::vector<MovedRegion>& places, int width,
                              int height) {
  std::vector<CellMask> out;
  for (std::size_t i = 0; i < options.lent.size(); ++i) out.push_back(emptyMask(width, height));
  for (const SourceChoice& choice : options.choices) {
    const std::vector<int> cells = choiceCells(choice, places, width, height);
    for (std::size_t i = 0; i < out.size(); ++i)
      for (const int at : cells) out[i].data()[at] = options.lent[i] == choice.frame;
  }
  return out;
}

/// What the others have left of their shares.
void yieldTo(const CellMask& given, Image<float>& share) {
  const Image<float> left = softShare(given, kBorderCells);
  for (std::size_t i = 0; i < share.size(); ++i) share.data()[i] *= left.data()[i];
}

} // namespace

Consistency consistencyWithLent(const std::vector<PlacedFrame>& frames, const MergeOptions& options,
                                const Progress& progress) {
  std::vector<int> own;
  std::vector<PlacedFrame> mine;
  for (int i = 0; i < int(frames.size()); ++i)
    if (!holds(options.lent, i)) own.push_back(i), mine.push_back(frames[std::size_t(i)]);
  Consistency found = findConsistency(mine, ownOptions(options, own), progress);
  Consistency out;
  out.cell = found.cell;
  out.decides = std::move(found.decides);
  for (std::size_t i = 0; i < out.decides.size(); ++i)
    if (std::uint8_t& who = out.decides.data()[i]; who > 0) who = std::uint8_t(1 + own[std::size_t(who - 1)]);
  out.report = std::move(found.report);
  if (found.moment >= 0) out.moment = own[std::size_t(found.moment)];
  for (MovedRegion& place : out.report.places) {
    place.source = own[std::size_t(place.source)];
    for (int& frame : place.recording) frame = own[std::size_t(frame)];
    // Whether a lent frame shows something better there, only the eye can say.
    if (!place.painted) place.recording.insert(place.recording.end(), options.lent.begin(), options.lent.end());
  }
  const Frame& reference = *frames[std::size_t(options.reference)].frame;
  const int width = std::max(2, reference.width() / out.cell), height = std::max(2, reference.height() / out.cell);
  const std::vector<CellMask> given = givenTo(options, out.report.places, width, height);
  out.share.resize(frames.size());
  out.report.excludedShare.assign(frames.size(), 1);
  for (std::size_t k = 0; k < own.size(); ++k) {
    Image<float>& share = out.share[std::size_t(own[k])];
    if (found.share.empty())
      share = Image<float>(width, height, 1), share.fill(1);
    else
      share = std::move(found.share[k]);
    for (const CellMask& cells : given) yieldTo(cells, share);
    out.report.excludedShare[std::size_t(own[k])] =
        found.report.excludedShare.empty() ? 0 : found.report.excludedShare[k];
  }
  for (std::size_t k = 0; k < given.size(); ++k) {
    Image<float> share = softShare(given[k], kBorderCells);
    for (std::size_t i = 0; i < share.size(); ++i) share.data()[i] = 1 - share.data()[i];
    for (std::size_t other = 0; other < given.size(); ++other)
      if (other != k) yieldTo(given[other], share);
    out.share[std::size_t(options.lent[k])] = std::move(share);
    const auto count = std::count(given[k].data(), given[k].data() + given[k].size(), std::uint8_t(1));
    out.report.excludedShare[std::size_t(options.lent[k])] = 1 - double(count) / double(given[k].size());
    if (count == 0) continue;
    for (std::size_t i = 0; i < out.decides.size(); ++i)
      if (out.share[std::size_t(options.lent[k])].data()[i] > 0) out.decides.data()[i] = 0; // the user's word stands
  }
  for (const SourceChoice& choice : options.choices) {
    if (!holds(options.lent, choice.frame)) continue;
    const std::vector<int> cells = choiceCells(choice, out.report.places, width, height);
    if (cells.empty()) continue;
    if (choice.radius > 0) {
      out.report.places.push_back(regionOf(cells, width, choice.frame));
      out.report.places.back().recording = {choice.frame};
      out.report.places.back().painted = true;
    } else {
      for (MovedRegion& place : out.report.places)
        if (!place.painted && place.holds(cells.front() % width, cells.front() / width)) place.source = choice.frame;
    }
  }
  return out;
}

void markFull(const Frame& mosaic, int cell, CellMask& cells) {
  constexpr float kNearly = 0.9f;
  std::array<std::uint16_t, 3> least;
  for (std::size_t c = 0; c < 3; ++c)
    least[c] = std::uint16_t(std::min(65535.f, kPedestal + kLightRange * kNearly * mosaic.saturation[c]));
  const auto sites = mosaic.codes.photosites();
  for (int y = 0; y < sites.height; ++y) {
    const std::uint16_t* row = sites.row(y);
    std::uint8_t* marks = cells.row(std::min(y / cell, cells.height() - 1));
    for (int x = 0; x < sites.width; ++x)
      if (row[x] >= least[std::size_t(mosaic.colourAt(x, y))]) marks[std::min(x / cell, cells.width() - 1)] = 1;
  }
}

CellMask lentCells(const Consistency& consistency, const std::vector<int>& lent) {
  CellMask out;
  for (const int frame : lent) {
    const Image<float>& share = consistency.share[std::size_t(frame)];
    if (out.empty()) out = emptyMask(share.width(), share.height());
    for (std::size_t i = 0; i < share.size(); ++i)
      if (share.data()[i] > 0) out.data()[i] = 1;
  }
  return out;
}

} // namespace ml
