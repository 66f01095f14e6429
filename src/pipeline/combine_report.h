// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "finish/judgement.h"
#include "pipeline/combine.h"

#include <array>
#include <memory>
#include <nlohmann/json_fwd.hpp>

namespace ml {

/// What is said of combining, without the pixels: what a view keeps, what the window explains, what the command line
/// writes (its shape stands in docs/formats.md).
struct CombineReport {
  struct Frame {
    std::filesystem::path file;
    ExposureSettings settings;
    double shiftX = 0, shiftY = 0, degrees = 0, scale = 1; ///< Against the reference; pixels.
    double residual = 0, correlation = 0;
    double clippedShare = 0, movedShare = 0, lightStops = 0;
    bool exposureEstimated = false;
    bool lent = false;  ///< Of another set.
    bool flash = false; ///< Used only where the others are full.
    std::string note;
  };
  struct Run {
    int from = 0, length = 0;
  };
  /// What comes from one frame: cells of the reference, and runs of them for each row.
  struct Place {
    int cell = 4;
    Roi cells;
    int source = 0; ///< Frame, darkest first.
    std::vector<int> recording;
    bool painted = false;
    std::vector<std::vector<Run>> rows;
    /// Is the cell that holds this pixel of the reference part of it?
    [[nodiscard]] bool holds(double x, double y) const;
  };
  struct Curve {
    std::string start;
    bool changed = false, fromEarlierSets = false;
    std::size_t samples = 0;
    double disagreementBefore = 0, disagreementAfter = 0; ///< Stops.
    int lowestCode = 0, highestCode = 0;
    std::vector<std::array<double, 4>> points; ///< Code, and the light of red, green and blue.
  };
  /// Of CombineMethod::Positions.
  struct Position {
    std::string name;
    int row = 0, column = 0, plane = 0;         ///< From 0.
    double residual = 0, overlap = 0;           ///< Pixels; share of its frame that a neighbour sees too.
    std::vector<std::array<double, 2>> outline; ///< Of its frame on the picture, 0..1 of it.
  };
  struct Refused {
    std::string file, reason;
  };

  std::vector<Frame> frames; ///< Darkest first; those left out are not here.
  int reference = 0;
  int width = 0, height = 0; ///< Of the picture.
  Roi crop;                  ///< Of the reference frame.
  int referenceWidth = 0, referenceHeight = 0;
  double ev100OfUnit = 0, clippedShare = 0;
  std::string method = "radiance";
  int motionRegions = 0;
  std::optional<GhostsLeft> ghosts; ///< Empty: movement was not looked for.
  std::vector<Place> places;
  std::vector<Position> positions; ///< In the order they were shot; empty: one position.
  bool plumb = false;              ///< As SceneFacts.
  double focal = 0;                ///< Of joined positions: pixels a radian in the middle of the picture.
  std::vector<StopRecord> stops;
  std::shared_ptr<const Image<float>> noisier; ///< As noisierPlaces; null: nowhere.
  Metered metered;
  std::optional<Curve> response;
  std::vector<std::string> remarks;
  std::vector<Refused> leftOut;
  std::string verdict;

  /// Candelas a square metre of the value 1.
  [[nodiscard]] double candelasOfUnit() const;
};

[[nodiscard]] CombineReport combineReport(const Combined& combined);
[[nodiscard]] nlohmann::json toJson(const CombineReport& report);
/// What is missing or makes no sense keeps its default.
[[nodiscard]] CombineReport combineReportFromJson(const nlohmann::json& document);

} // namespace ml
