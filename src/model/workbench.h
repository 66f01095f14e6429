#pragma once
#include "camera/simulated_camera.h"
#include "finish/finish.h"
#include "model/background.h"
#include "model/ladder.h"
#include "session/job.h"

#include <QImage>
#include <QObject>
#include <QStringList>
#include <QUndoStack>
#include <memory>
#include <mutex>
#include <optional>

namespace ml {

enum class Station { Light, Frames, Shoot, Combine, Finish, Deliver };
inline constexpr int kStationCount = 6;

/// What the planner is asked, besides the readings.
struct PlanChoices {
  std::string camera = "full-frame-24";
  std::string school = "auto";
  FNumber aperture{8};
  double snrTarget = 10;
  friend bool operator==(const PlanChoices&, const PlanChoices&) = default;
};

/// Files to write at the Deliver station.
struct DeliverChoices {
  bool jpeg = true, webJpeg = false, tiff = false, exr = true;
};

/// The job that is open, the view in hand and everything that can be done with it. No widgets: the window shows what this
/// says and calls what it offers. Each change is on disk before it is signalled.
class Workbench : public QObject {
  Q_OBJECT

public:
  explicit Workbench(QObject* parent = nullptr);
  ~Workbench() override;

  bool openJob(const std::filesystem::path& folder);
  /// The ferry house in `jobs` (the user's job folder): opened when it is there, else made.
  bool openDemo(const std::filesystem::path& jobs);
  /// A new job in `jobs` from frames or folders of the user's own; one view for each set found. Runs in the background.
  void takeFiles(const QStringList& paths, const std::filesystem::path& jobs);

  [[nodiscard]] bool hasView() const { return current_ >= 0; }
  [[nodiscard]] const Job& job() const { return *job_; }
  [[nodiscard]] const View& view() const { return job_->views()[std::size_t(current_)]; }
  [[nodiscard]] int viewIndex() const { return current_; }
  void selectView(int index);
  [[nodiscard]] bool hasCamera() const { return camera_ != nullptr; }

  [[nodiscard]] Station station() const { return station_; }
  void goTo(Station station);
  [[nodiscard]] StationStates states() const;
  [[nodiscard]] QString verdictText() const;
  /// Why the verdict says what it says: coverage, frames, registrations; plain text lines.
  [[nodiscard]] QString reasoning() const;
  [[nodiscard]] LadderData ladder() const;
  [[nodiscard]] QImage picture() const;

  // Light
  /// Reads a spot of the picture (0..1) and adds it; with own files from the frame shown.
  void readSpot(double x, double y);
  /// "13 1/3" or "12.5" EV, or a time for f/8 at ISO 100 such as "1/125 s". False when the text is neither.
  bool typeReading(const QString& name, const QString& text);
  void removeReading(int index);
  void setKeepTexture(int index, bool keep);
  void brightenFinder(double stops);

  // Frames
  [[nodiscard]] PlanChoices planChoices() const;
  void choosePlan(const PlanChoices& choices);

  // Shoot
  void setFormat(FrameFormat format);
  void setHandHeld(bool handHeld) { handHeld_ = handHeld; }
  [[nodiscard]] bool handHeld() const { return handHeld_; }
  void shoot();
  void showFrame(int index);
  [[nodiscard]] int shownFrame() const { return shownFrame_; }
  [[nodiscard]] const std::vector<ExposureSettings>& shotSettings() const { return shot_; }

  // Combine
  void combine(const CombineOptions& options);

  /// One line for each combined frame: number, time, shift and rotation.
  [[nodiscard]] QStringList framePlaces() const;

  // Finish
  void setRecipe(const Recipe& recipe, int dragId = 0);
  /// The middle frame instead of the finished picture, while held.
  void compare(bool before);

  // Deliver
  void deliver(const DeliverChoices& choices);

  [[nodiscard]] QUndoStack& undoStack() { return undo_; }
  [[nodiscard]] bool busy() const { return work_.running(); }
  /// Neither long work nor a preview is under way.
  [[nodiscard]] bool settled() const { return !work_.running() && !preview_.running(); }
  void stopWork() { work_.stop(); }

signals:
  void changed();            ///< Anything but the picture.
  void pictureChanged();
  void busyChanged(bool busy);
  void progressed(const QString& stage, double fraction);
  void failed(const QString& sentence);
  void frameArrived(int index);

private:
  /// The combined picture reduced to screen size, and what the tone operator found in the full one.
  struct RadianceState {
    Image<float> preview;
    ToneAnalysis analysis;
    double ev100OfUnit = 0;
    FinishReport finish;
  };
  struct CombinedState {
    std::optional<CombineRecord> record;
    std::string stamp;
    std::shared_ptr<RadianceState> radiance;
  };

  View& mutableView() { return job_->views()[std::size_t(current_)]; }
  void enterView(int index);
  void adopt(Job job);
  bool check(const Result<void>& result);
  void applyReadings(std::vector<SpotReading> readings);
  void applyPlanChoices(const PlanChoices& choices);
  void applyCombined(const CombinedState& state);
  [[nodiscard]] CombinedState combinedState() const;
  void applyRecipe(const Recipe& recipe);
  void shootInto(const std::filesystem::path& folder, std::vector<ExposureSettings> frames, const Progress& progress,
                 std::shared_ptr<std::optional<Error>> problem);
  void frameShot(const std::filesystem::path& file, const ExposureSettings& settings, std::shared_ptr<const Frame> frame, double clipped);
  void loadRadiance();
  template <class Apply, class Value> void pushChange(const QString& text, Value before, Value after, Apply apply, int mergeId = -1);
  void replan();
  void refreshFinder();
  void refreshFrame(int index);
  void refreshFinish();
  void refreshPicture();
  void loadShotSettings();
  [[nodiscard]] QString lightVerdict() const;

  std::optional<Job> job_;
  int current_ = -1;
  Station station_ = Station::Light;
  std::shared_ptr<const World> world_;
  std::shared_ptr<SimulatedCamera> camera_;
  std::mutex cameraMutex_; ///< The finder is drawn on another thread.
  bool handHeld_ = true;
  double finderStops_ = 0;
  PlanChoices choices_;
  std::vector<ExposureSettings> shot_;
  int shownFrame_ = -1;
  std::shared_ptr<const Frame> frame_;
  std::optional<double> darkestClipped_;
  std::shared_ptr<RadianceState> radiance_;
  bool comparing_ = false;
  QString planProblem_;
  QImage finderImage_, frameImage_, finishImage_, beforeImage_;
  QUndoStack undo_;
  Background work_, preview_;
};

} // namespace ml
