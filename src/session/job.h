#pragma once
#include "base/result.h"
#include "camera/camera.h"
#include "finish/recipe.h"
#include "pipeline/combine.h"
#include "plan/planner.h"

#include <filesystem>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// A named spot of the scene and how bright it is.
struct SpotReading {
  std::string name;
  Stops ev100;
  bool keepTexture = true;               ///< False: it may clip (a bare bulb, the sun).
  std::optional<double> x, y;            ///< Place in the picture, 0..1; empty when typed.
  friend bool operator==(const SpotReading&, const SpotReading&) = default;
};

/// What the Combine station made, without the pixels (they are in radiance.exr).
struct CombineRecord {
  CombineOptions options;
  std::vector<std::string> frames;       ///< Names of the frames it was made from, sorted.
  double ev100OfUnit = 0;
  std::vector<std::string> metadataFrom; ///< At most one: the reference frame.
  std::string verdict;
  nlohmann::json report;
};

/// One finished file and what it was made from.
struct DeliveredFile {
  std::string file;
  std::string recipe;                    ///< JSON text of the recipe.
  std::string radiance;                  ///< Stamp of the radiance it was made from.
};

/// One view of a visit, kept in `views/NN-name/`. Members are what is on disk after the matching save call.
struct View {
  std::filesystem::path folder;
  std::string name;
  std::string world;                     ///< Demo world behind the simulated camera; empty for the user's own files.
  std::string camera = "full-frame-24";
  FrameFormat format = FrameFormat::Dng;
  double snrTarget = 10;
  std::string school = "auto";
  std::vector<SpotReading> readings;
  std::optional<Plan> plan;
  std::vector<std::filesystem::path> frames; ///< Absolute.
  std::optional<CombineRecord> combined;
  std::string radianceStamp;             ///< Changes whenever radiance.exr does.
  Recipe recipe;
  std::vector<DeliveredFile> delivered;

  nlohmann::json planExtra, finishExtra; ///< Fields other versions wrote; kept.

  [[nodiscard]] std::filesystem::path framesFolder() const { return folder / "frames"; }
  [[nodiscard]] std::filesystem::path radianceFile() const { return folder / "radiance.exr"; }
  [[nodiscard]] std::filesystem::path deliveredFolder() const { return folder / "delivered"; }
  [[nodiscard]] std::vector<std::string> frameNames() const;

  Result<void> savePlan() const;         ///< plan.json: readings and plan.
  Result<void> saveFrames() const;       ///< frames.json: the list of frames.
  Result<void> saveCombined() const;     ///< combine.json.
  Result<void> saveFinish() const;       ///< finish.json: recipe and delivered files.
};

/// A visit: a folder with job.json and its views. Every save is atomic; a job opens again as it was after the last save.
class Job {
public:
  /// Makes the folder and job.json. Errors: CannotWrite, also when a job is there already.
  static Result<Job> create(const std::filesystem::path& folder, const std::string& name);
  /// Errors: FileMissing, FileUnreadable (names the file).
  static Result<Job> open(const std::filesystem::path& folder);

  [[nodiscard]] const std::filesystem::path& folder() const { return folder_; }
  [[nodiscard]] const std::string& name() const { return name_; }
  [[nodiscard]] std::vector<View>& views() { return views_; }
  [[nodiscard]] const std::vector<View>& views() const { return views_; }
  /// Appends a view and writes its folder; the index of the new view.
  Result<std::size_t> addView(const std::string& name, const std::string& world, const std::string& camera);
  Result<void> save() const;

private:
  std::filesystem::path folder_;
  std::string name_;
  nlohmann::json extra_;
  std::vector<View> views_;
};

enum class StationState { Open, Done, OutOfDate };
struct StationStates {
  StationState light, frames, shoot, combine, finish, deliver;
};
/// What each station of a view shows: a step is out of date when something before it changed after it was done.
[[nodiscard]] StationStates stationStates(const View& view);

} // namespace ml
