// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "camera/faults.h"
#include "plan/planner.h"

#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace ml {

// What is so in an exercise, and what was answered, by kind.

struct SpotTruth {
  struct Spot {
    double x = 0, y = 0; ///< 0..1 of the picture.
    Stops ev100{0};
  };
  std::vector<Spot> spots;
};
struct SpotAnswer {
  std::vector<Stops> ev100; ///< In their order.
};

struct BracketTruth {
  CameraProfile camera;
  PlanRequest request;
  Plan best;
};
struct BracketAnswer {
  int count = 3;
  Stops step{2};
  Seconds centre{1.0 / 64};
};

struct FaultTruth {
  int frames = 0;
  std::vector<Fault> faults; ///< Frames from 0.
};
struct FaultAnswer {
  std::vector<Fault> faults; ///< Empty: the set is sound.
};

struct LeaveOutTruth {
  CameraProfile camera;
  PlanRequest request;
  std::vector<ExposureSettings> frames; ///< Shortest first.
  int most = 0;                         ///< That can go while the rest still covers.
};
struct LeaveOutAnswer {
  std::vector<int> frames; ///< From 0.
};

/// One thing on a camera and how it should stand.
struct SettingItem {
  std::string id, name, why;
  std::vector<std::string> choices;
  std::string now, right;
};
struct SettingsTruth {
  std::vector<SettingItem> items;
};
struct SettingsAnswer {
  std::vector<std::pair<std::string, std::string>> set; ///< Id and choice.
};

/// The sky fades, the lamps stay. `minute` counts from the beginning.
struct DuskTruth {
  double skyAtStart = 8;     ///< EV100.
  double fadePerMinute = .3; ///< Stops.
  double lamps = 5;          ///< EV100 of what they light.
  double from = 0, to = 0;   ///< Minutes in which sky and lamps are at most a stop apart.
  int sets = 3;
  double apart = 1.5; ///< Least minutes from one set to the next.
  FNumber aperture{8};
  Iso iso{100};
  [[nodiscard]] Stops skyAt(double minute) const { return {skyAtStart - fadePerMinute * minute}; }
};
struct DuskAnswer {
  struct Shot {
    double minute = 0;
    Seconds centre{1};
  };
  std::vector<Shot> shots;
};

enum class FinishFlaw { Natural, TooMuchTexture, TooColourful, TooFlat, Grey };
[[nodiscard]] const std::vector<FinishFlaw>& finishFlaws();
[[nodiscard]] const char* idOf(FinishFlaw flaw);
[[nodiscard]] std::string wordsOf(FinishFlaw flaw);
[[nodiscard]] std::optional<FinishFlaw> finishFlaw(const std::string& id);
/// A place of a picture, 0..1 of its sides.
struct FinishPlace {
  double x = 0.5, y = 0.5;
};
struct FinishTruth {
  struct Picture {
    FinishFlaw flaw = FinishFlaw::Natural;
    FinishPlace place;  ///< Of the flaw's middle.
    double reach = 0.3; ///< Within which it shows, shares of the longer side.
  };
  std::vector<Picture> pictures;
  double aspect = 1.5; ///< Width over height of all of them.
};
struct FinishAnswer {
  struct Picture {
    FinishFlaw flaw = FinishFlaw::Natural;
    std::optional<FinishPlace> place;
  };
  std::vector<Picture> pictures;
};

struct SortTruth {
  struct Seen {
    int scene = 0;
    bool thumb = false; ///< Before it.
  };
  struct CardFrame {
    std::string name, clock; ///< "12:03:41".
    ExposureSettings settings;
    Seen seen;
    int set = -1; ///< -1: belongs to none (a thumb).
  };
  std::vector<CardFrame> frames;
};
struct SortAnswer {
  std::vector<std::vector<int>> sets; ///< Frames from 0.
};

using ExerciseTruth =
    std::variant<SpotTruth, BracketTruth, FaultTruth, LeaveOutTruth, SettingsTruth, DuskTruth, FinishTruth, SortTruth>;
using ExerciseAnswer = std::variant<SpotAnswer, BracketAnswer, FaultAnswer, LeaveOutAnswer, SettingsAnswer, DuskAnswer,
                                    FinishAnswer, SortAnswer>;

} // namespace ml
