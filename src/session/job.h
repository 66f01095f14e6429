// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "base/result.h"
#include "camera/camera.h"
#include "finish/recipe.h"
#include "pipeline/combine_report.h"
#include "plan/situation.h"

#include <cstdint>
#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace ml {

/// A named spot of the scene and how bright it is.
struct SpotReading {
  std::string name;
  Stops ev100;
  bool keepTexture = true;    ///< False: it may clip (a bare bulb, the sun).
  std::optional<double> x, y; ///< Place in the picture, 0..1; empty when typed.
  double uncertainty = 0;     ///< Stops, one standard deviation: texture and noise inside the spot; 0: typed.
  bool atLeast = false;       ///< The spot was clipped: it is this bright or brighter.
  int row = 0, column = 0;    ///< Of the position it was read at; 0: the first, or the only one.
  friend bool operator==(const SpotReading&, const SpotReading&) = default;
};

/// A bracket of the user's own instead of the recommended one, in third stops of the shutter ladder.
struct OwnBracket {
  int count = 3, step = 6;
  int first = 24; ///< Shortest time.
  Iso iso{100};
  friend bool operator==(const OwnBracket&, const OwnBracket&) = default;
};

/// What the Combine station made, without the pixels (they are in radiance.exr).
struct CombineRecord {
  CombineOptions options;
  std::vector<std::string> frames; ///< Names of the frames it was made from, sorted.
  double ev100OfUnit = 0;
  std::vector<std::string> metadataFrom; ///< At most one: the reference frame.
  std::string verdict;
  std::shared_ptr<const CombineReport> report = std::make_shared<const CombineReport>();
};
/// What the finish is told of it.
[[nodiscard]] SceneFacts factsOf(const CombineRecord& record);

/// One finished file and what it was made from.
struct DeliveredFile {
  std::string file;
  std::string recipe;   ///< JSON text of the recipe.
  std::string radiance; ///< Stamp of the radiance it was made from.
  std::string target;   ///< Id; empty in jobs of earlier versions.
  std::string asked;    ///< How it was to be named and signed; empty in jobs of earlier versions.
};

/// What the field check said of one frame, as the logbook counts it.
struct FrameNote {
  std::string file;   ///< Its name.
  double seconds = 0; ///< Exposure.
  double focal35 = 0; ///< mm, of the same angle on 36 mm; 0: not known.
  bool handHeld = false;
  double softness = 0;            ///< As FrameJudgement has it.
  std::vector<std::string> flaws; ///< Ids.
  friend bool operator==(const FrameNote&, const FrameNote&) = default;
};

/// Something that happened to a view: frames that were shot, a verdict, a picture that was made or delivered.
struct ViewEvent {
  std::int64_t at = 0; ///< Seconds since 1970, UTC.
  std::string what;    ///< "shot", "verdict", "combined", "delivered".
  std::string subject; ///< The set, or the file.
  std::string words;
  friend bool operator==(const ViewEvent&, const ViewEvent&) = default;
};

/// Frames shot for one purpose: a bracket, its repeat, one position of a panorama, one plane of focus.
struct FrameSet {
  std::string name;                      ///< Its folder, "set-01"; also of frames that lie elsewhere.
  std::string label;                     ///< What the photographer calls it.
  int row = 0, column = 0, plane = 0;    ///< 0: no panorama, no planes.
  std::vector<ExposureSettings> planned; ///< In the order they are fired; empty: not known.
  struct Member {
    std::filesystem::path file; ///< Absolute.
    bool used = true;           ///< False: gave way to another, or was left out.
    friend bool operator==(const Member&, const Member&) = default;
  };
  std::vector<Member> frames; ///< As they arrived.
  std::string verdict;
  std::string answer;                ///< Of the field check, as answerName has it; empty: not asked yet.
  std::vector<FrameNote> notes = {}; ///< Of its frames, as they were judged.
  friend bool operator==(const FrameSet&, const FrameSet&) = default;
};

/// One view of a visit, kept in `views/NN-name/`. Members are what is on disk after the matching save call.
struct View {
  std::filesystem::path folder;
  std::string name;
  std::string world; ///< Demo world behind the simulated camera; empty for the user's own files.
  std::string camera = "full-frame-24";
  FrameFormat format = FrameFormat::Dng;
  double snrTarget = 10;
  std::string school = "auto";
  FNumber aperture{8};
  std::optional<OwnBracket> own; ///< Instead of what the school would plan.
  std::vector<SpotReading> readings;
  std::optional<Plan> plan;
  Situation situation;
  std::optional<Iso> isoCap;
  std::optional<CameraProfile> ownCamera; ///< A profile of the user's own, kept with the view.
  std::vector<FrameSet> sets;
  int activeSet = -1;                        ///< The one that is combined.
  std::vector<std::filesystem::path> frames; ///< Those of the active set that are used; absolute.
  std::optional<CombineRecord> combined;
  std::string radianceStamp; ///< Changes whenever radiance.exr does.
  Recipe recipe;
  std::vector<DeliveredFile> delivered;

  std::string otherLightOf;            ///< Folder name of the view that this one shows under another light.
  std::string notes;                   ///< The photographer's own words.
  std::string kind;                    ///< Of view, for pace and statistics: "interior"; empty: not said.
  std::map<std::string, double> spent; ///< Seconds of work at each station, by its id.
  std::vector<ViewEvent> events;       ///< As they happened.
  bool leftOut = false;                ///< Takes no part when all views are delivered.
  bool framesSeen = false;             ///< The plan was looked at.
  std::string finishSeen;              ///< Stamp of the radiance whose finish was looked at.

  std::string planExtra,
      finishExtra; ///< plan.json and finish.json as they were read: fields of other versions are kept.

  [[nodiscard]] std::filesystem::path framesFolder() const { return folder / "frames"; }
  [[nodiscard]] std::filesystem::path radianceFile() const { return folder / "radiance.exr"; }
  [[nodiscard]] std::filesystem::path deliveredFolder() const { return folder / "delivered"; }
  [[nodiscard]] std::vector<std::string> frameNames() const;
  /// Of all that a way to combine takes, sorted: those of the active set, or of all positions with their set before
  /// them.
  [[nodiscard]] std::vector<std::string> frameNames(CombineMethod method) const;
  /// Files of other sets that are lent to the active one, of CombineOptions::lent; what is not there is passed over.
  [[nodiscard]] std::vector<std::filesystem::path> lentFiles(const std::vector<std::string>& lent) const;
  /// Sets that are positions of this view, in the order they were shot; of a position shot again, the last. Fewer than
  /// two: there is nothing to join.
  [[nodiscard]] std::vector<int> positions() const;
  /// The set's folder under frames/.
  [[nodiscard]] std::filesystem::path setFolder(const FrameSet& set) const { return framesFolder() / set.name; }
  /// The camera it is planned for: the user's own, a shipped one, else the first.
  [[nodiscard]] CameraProfile profile() const;

  /// A new, empty set with the next free name becomes the active one; an active set without frames is taken again.
  FrameSet& startSet(const std::string& label, std::vector<ExposureSettings> planned);
  /// A set of frames that lie elsewhere.
  void adoptFrames(const std::string& label, const std::vector<std::filesystem::path>& files);
  void selectSet(int index);
  /// `frames` again from the active set.
  void refreshFrames();

  Result<void> savePlan() const;     ///< plan.json: readings and plan.
  Result<void> saveFrames() const;   ///< frames.json: the sets and their frames.
  Result<void> saveCombined() const; ///< combine.json.
  Result<void> saveFinish() const;   ///< finish.json: recipe and delivered files.
  Result<void> saveJournal() const;  ///< journal.json: time spent, and what happened.
};

/// A visit: a folder with job.json and its views. Every save is atomic; a job opens again as it was after the last
/// save.
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
  /// A new view after `of`, with its readings, choices, finish and, of frames that lie elsewhere, its frames.
  Result<std::size_t> duplicateView(std::size_t of, const std::string& name);
  /// Out of the list; its folder stays, and bringBack puts it where it was.
  Result<void> removeView(std::size_t index);
  /// A view that was taken out, by its folder's name. Errors: of reading it.
  Result<void> bringBack(const std::string& folder, std::size_t index);
  Result<void> save() const;

private:
  std::filesystem::path folder_;
  std::string name_;
  [[nodiscard]] std::filesystem::path freeFolder(const std::string& name) const;
  Result<std::size_t> take(View view, std::size_t index);

  std::string extra_; ///< job.json as it was read.
  std::vector<View> views_;
};

enum class StationState { Open, Done, OutOfDate };
struct StationStates {
  StationState light, frames, shoot, combine, finish, deliver;
};
/// What each station of a view shows: a step is out of date when something before it changed after it was done.
[[nodiscard]] StationStates stationStates(const View& view);

} // namespace ml
