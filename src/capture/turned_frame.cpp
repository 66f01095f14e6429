// SPDX-License-Identifier: GPL-3.0-or-later
#include "capture/turned_frame.h"

#include "image/orientation.h"

#include <algorithm>
#include <array>

namespace ml {
namespace {

int known(int orientation) {
  return orientation >= 1 && orientation <= 8 ? orientation : 1;
}

/// What turns a picture that was turned by `from` into one that is turned by `to`: found on six pixels.
int turnBetween(int from, int to) {
  Image<std::uint8_t> stored(3, 2, 1);
  for (int i = 0; i < 6; ++i) stored.data()[i] = std::uint8_t(i);
  const auto has = oriented(ImageView<const std::uint8_t>(stored.view()), from),
             wanted = oriented(ImageView<const std::uint8_t>(stored.view()), to);
  for (int turn = 1; turn <= 8; ++turn) {
    const auto turned = oriented(ImageView<const std::uint8_t>(has.view()), turn);
    if (turned.width() == wanted.width() && std::equal(turned.data(), turned.data() + 6, wanted.data())) return turn;
  }
  return 1; // never: the eight are a group
}

std::array<int, 2> storedSize(const Frame& frame) {
  const bool swapped = known(frame.metadata.orientation) >= 5;
  return {swapped ? frame.height() : frame.width(), swapped ? frame.width() : frame.height()};
}

} // namespace

void turnAs(Frame& frame, int orientation) {
  const int by = turnBetween(known(frame.metadata.orientation), known(orientation));
  if (by != 1) {
    if (frame.isMosaic()) {
      const Turn turn{frame.width(), frame.height(), by};
      const auto before = frame.pattern;
      for (int k = 0; k < 4; ++k) {
        int u, v;
        turn.source(k & 1, k >> 1, u, v);
        frame.pattern[std::size_t(k)] = before[std::size_t(2 * (v & 1) + (u & 1))];
      }
    }
    frame.codes = frame.codes.visit([&](auto codes) { return Codes(oriented(codes, by)); });
  }
  frame.metadata.orientation = known(orientation);
}

std::vector<std::size_t> turnAlike(std::vector<Frame>& frames) {
  std::vector<std::size_t> turned;
  if (frames.empty()) return turned;
  std::array<int, 9> said{};
  for (const Frame& f : frames) ++said[std::size_t(known(f.metadata.orientation))];
  int usual = known(frames.front().metadata.orientation);
  for (const Frame& f : frames)
    if (const int o = known(f.metadata.orientation); said[std::size_t(o)] > said[std::size_t(usual)]) usual = o;
  const auto size = storedSize(frames.front());
  if (said[std::size_t(usual)] == int(frames.size()) ||
      std::any_of(frames.begin(), frames.end(), [&](const Frame& f) { return storedSize(f) != size; }))
    return turned;
  for (std::size_t i = 0; i < frames.size(); ++i)
    if (known(frames[i].metadata.orientation) != usual) turnAs(frames[i], usual), turned.push_back(i);
  return turned;
}

} // namespace ml
