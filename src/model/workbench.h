#pragma once
#include "camera/simulated_camera.h"
#include "finish/crop.h"
#include "model/finish_state.h"
#include "ingest/measure_sensor.h"
#include "ingest/watched_folder.h"
#include "judge/scene_reading.h"
#include "judge/set_judge.h"
#include "model/background.h"
#include "model/ladder.h"
#include "model/locked_camera.h"
#include "model/moved_places.h"
#include "model/picture_marks.h"
#include "pipeline/deliver_view.h"
#include "plan/camera_settings.h"
#include "plan/comparison.h"
#include "plan/shot_list.h"
#include "session/delivery_queue.h"
#include "session/job.h"
#include "session/look_shelf.h"
#include "session/profiles.h"
#include "session/shooting.h"

#include <QImage>
#include <QObject>
#include <QStringList>
#include <QTimer>
#include <QUndoStack>
#include <memory>
#include <optional>

namespace ml {

/// A bracket of the user's own instead of the recommended one, in third stops of the shutter ladder.
struct OwnBracket {
  int count = 3, step = 6;
  int first = 24; ///< Shortest time.
  Iso iso{100};
  friend bool operator==(const OwnBracket&, const OwnBracket&) = default;
};

/// What the planner is asked, besides the readings.
struct PlanChoices {
  std::string camera = "full-frame-24";
  std::string school = "auto";
  FNumber aperture{8};
  double snrTarget = 10;
  std::optional<Iso> isoCap;
  Situation situation;
  std::optional<OwnBracket> own;
  friend bool operator==(const PlanChoices&, const PlanChoices&) = default;
};

/// What the Shoot station knows of the active set; replaced as a whole when a frame has been judged.
struct ShootState {
  std::vector<std::shared_ptr<const Sketch>> sketches; ///< As they arrived.
  std::vector<FrameJudgement> judged;
  SetVerdict verdict;
  bool ended = true;                                   ///< No frame is on its way.
};

/// Files to write at the Deliver station.
struct DeliverChoices {
  std::vector<std::string> targets{"jpeg", "archive"}; ///< Ids.
  bool allViews = false;         ///< Of the visit; what is there and current is not written again.
  std::string pattern = kNamePattern;
  MetadataWishes wishes;
};

/// A view on a printed sheet.
struct SheetPicture {
  QString name;
  QImage before, after;
};
inline constexpr int kSheetEdge = 1400;

/// What a drag on the picture does at Finish.
enum class FinishTool { Light, White, PlaceWhite, Colour, Oval, Ramp, Brush, Heal, Crop, Level, Corners };
enum class Comparing { Off, Divider, Beside };
/// What the picture is compared with. Earlier, OtherView: the same frames combined otherwise, or that view, under this recipe.
enum class Against { OneExposure, Pinned, Earlier, OtherView, Reinhard, Drago, Durand };

/// The job that is open, the view in hand and everything that can be done with it. No widgets: the window shows what this
/// says and calls what it offers. Each change is on disk before it is signalled.
class Workbench : public QObject {
  Q_OBJECT

public:
  /// `jobs`: where jobs are kept; the user's own camera profiles lie beside it.
  explicit Workbench(const std::filesystem::path& jobs, QObject* parent = nullptr);
  ~Workbench() override;

  bool openJob(const std::filesystem::path& folder);
  /// The ferry house in `jobs` (the user's job folder): opened when it is there, else made.
  bool openDemo(const std::filesystem::path& jobs);
  /// A new job in `jobs` from frames or folders of the user's own; one view for each set found. Runs in the background.
  void takeFiles(const QStringList& paths, const std::filesystem::path& jobs);
  /// Makes a job with a view for each set. Follows `sorted`, after the user has looked.
  void takeSorted(const Grouping& grouping, const std::string& name, const std::filesystem::path& jobs);

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
  /// While frames are combined: `picture` is a first look at a fraction of their size.
  [[nodiscard]] bool showsFirstLook() const { return !firstLook_.isNull(); }

  // Light
  /// Reads a spot of the picture (0..1) and adds it; with own files, or a test frame, from the frame shown.
  void readSpot(double x, double y);
  /// As parseReading takes it, at the chosen aperture and ISO 100. False when the text is no reading.
  bool typeReading(const QString& name, const QString& text);
  void renameReading(int index, const QString& name);
  void removeReading(int index);
  void setKeepTexture(int index, bool keep);
  void brightenFinder(double stops);
  /// Of the picture's width.
  [[nodiscard]] double spotRadius() const { return spotRadius_; }
  void setSpotRadius(double radius);
  /// One frame at the finder's exposure, shown at Light until the next reading is done on the finder again.
  void takeTestFrame();
  [[nodiscard]] bool showsTestFrame() const { return testFrame_ != nullptr; }
  void putTestFrameAway();
  /// Darkest and brightest zone of the test frame, marked on the picture.
  [[nodiscard]] const std::optional<ProposedZones>& proposals() const { return proposals_; }
  void takeProposals();

  // Frames
  [[nodiscard]] PlanChoices planChoices() const;
  void choosePlan(const PlanChoices& choices);
  /// All schools on this scene; null when there is no plan. Kept until something changes.
  [[nodiscard]] const Comparison* comparison() const;
  [[nodiscard]] std::vector<CameraSetting> settingsToMake() const;
  [[nodiscard]] std::vector<std::string> warnings() const;
  [[nodiscard]] std::optional<ShotList> shots() const;
  [[nodiscard]] ProfileShelf& profiles() { return *shelf_; }
  void profilesChanged();
  /// Derives full well and read noise of the current camera from flat and dark raw files, as a profile of the user's own.
  void measureSensor(const QStringList& files);

  // Shoot
  void setFormat(FrameFormat format);
  [[nodiscard]] bool handHeld() const { return choices_.situation.handHeld; }
  void setHandHeld(bool handHeld);
  void setOrder(BracketOrder order) { order_ = order; }
  [[nodiscard]] BracketOrder order() const { return order_; }
  /// Strikes at the second frame of what is shot next.
  void armFault(FaultKind fault);
  [[nodiscard]] std::optional<DeviceStatus> device() const;
  void connectCamera();
  void changeCard();
  /// A new set as planned; with `whenStill` it waits for a lull in what the finder sees.
  void shoot(bool whenStill = false);
  /// Carries out the one next action of the verdict.
  void doNext();
  [[nodiscard]] const ShootState& shootState() const { return shootState_; }
  void showFrame(int index);
  [[nodiscard]] int shownFrame() const { return shownFrame_; }
  [[nodiscard]] const std::vector<ExposureSettings>& shotSettings() const { return shot_; }
  void setFrameUsed(int index, bool used);
  void selectSet(int index);
  void describeSet(const QString& label, int row, int column, int plane);
  void watch(const QString& folder);
  void stopWatching();
  [[nodiscard]] QString watched() const;

  // Combine
  void combine(const CombineOptions& options);

  /// What the picture was combined with, or would be by default.
  [[nodiscard]] CombineOptions combineOptions() const;
  [[nodiscard]] std::vector<MovedPlace> movedPlaces() const;
  /// The place at (x, y) of the picture, 0..1, comes from the next frame that records it. False: there is none.
  bool cyclePlace(double x, double y);
  /// What lies under the stroke comes from `frame` (darkest first); radius in shares of the width.
  void paintPlace(const QPolygonF& stroke, double radius, int frame);
  /// While painting, strokes on the picture come from this frame.
  [[nodiscard]] bool painting() const { return paintFrom_ >= 0; }
  [[nodiscard]] int paintFrom() const { return std::max(0, paintFrom_); }
  [[nodiscard]] double brushRadius() const { return brushRadius_; }
  void setPainting(int frame);  ///< -1: not painting.
  void setBrushRadius(double radius);
  /// One entry for each frame of the view, by name: how it lay and whether it is used.
  struct FramePlace {
    QString file, line, details, note; ///< `note`: why leaving it out is proposed, or what is odd about it.
    bool used = true;
    int merged = -1;          ///< Index among the merged frames.
  };
  [[nodiscard]] std::vector<FramePlace> framePlaces() const;

  // Finish
  void setRecipe(const Recipe& recipe, int dragId = 0);
  [[nodiscard]] FinishTool finishTool() const { return finishTool_; }
  void setFinishTool(FinishTool tool);
  /// A press, drag and release on the finished picture, 0..1. One drag is one step of undo.
  void toolPress(QPointF at);
  void toolDrag(QPointF at);
  void toolRelease(QPointF at);
  /// Light at this EV100 goes to this tone of the paper.
  void pullTie(double ev100, double paper, int dragId);
  /// Reading of a surface of value 1 of the combined picture.
  [[nodiscard]] double ev100OfUnit() const { return radiance_ ? radiance_->facts.ev100OfUnit : 0; }
  [[nodiscard]] int selectedArea() const; ///< -1: there is none.
  void selectArea(int index);
  /// Outlines of areas, while they are worked on.
  void showAreas(bool shown);
  /// All windows, or the sky: found anew from the light of each picture.
  void addFound(AreaShape shape);
  /// White paint found in the picture; null: none, or not looked for yet.
  [[nodiscard]] const WhiteTrim* whiteTrim() const { return radiance_ && radiance_->white ? &*radiance_->white : nullptr; }
  void takeWhiteTrim();
  /// Where it was found is marked, while colour is worked on.
  void showWhiteTrim(bool shown);
  /// As metered, lighter, deeper, and round again.
  void nextStart();
  void removeArea();
  void setPlumb();
  void findHorizon();
  /// Null until the picture has been judged.
  [[nodiscard]] const Judgement* judgement() const;
  /// What is too much by the largest factor; null: nothing.
  [[nodiscard]] const Finding* worstFinding() const;
  void remedy();
  /// Ours, then the user's own.
  [[nodiscard]] std::vector<Look> allLooks() const;
  void chooseLook(const std::string& id, double strength, int dragId = 0);
  void saveLook(const QString& name);
  void copyToOtherViews();
  /// The chosen area, and the places that the judgement minds.
  [[nodiscard]] PictureMarks finishMarks() const;
  [[nodiscard]] Comparing comparing() const { return comparisonMode_; }
  void setComparison(Comparing how);
  struct Comparand {
    Against against = Against::OneExposure;
    int index = 0; ///< Of the view, or the number of what was combined earlier.
    QString name; ///< As a label says it.
  };
  /// Everything there is to compare with.
  [[nodiscard]] std::vector<Comparand> comparands() const;
  [[nodiscard]] const Comparand& comparand() const { return comparand_; }
  /// Turns comparing on when it is off. Pinned takes the recipe as it is at this moment.
  void compareWith(const Comparand& what);
  /// Longer to shorter side; 0: free. What is kept is cut to it at once, and by every drag of the crop tool.
  void setCropRatio(double ratio);
  [[nodiscard]] double cropRatio() const { return cropRatio_; }
  void setCropGuide(CropGuide guide);
  [[nodiscard]] CropGuide cropGuide() const { return cropGuide_; }
  /// While shape is worked on.
  void showGuides(bool shown);
  /// What the picture is compared with; null: nothing.
  [[nodiscard]] QImage besidePicture() const;
  /// Pixels of the finished picture at full size; empty when there is none.
  [[nodiscard]] QSize fullSize() const;
  /// Draws a part (0..1) of the picture at full size; answered by detailDrawn.
  void showDetail(QRectF visible);
  /// The middle frame instead of the finished picture, while held.
  void compare(bool before);

  // Deliver
  /// Puts files into the queue, which is written in order while other work goes on.
  void deliver(const DeliverChoices& choices);
  [[nodiscard]] const std::vector<DeliveryOrder>& deliveries() const;
  [[nodiscard]] bool delivering() const { return delivering_.running(); }
  /// The order that is being written; 0: none.
  [[nodiscard]] int deliveryWritten() const { return delivering() ? writing_ : 0; }
  /// "Reading room: JPEG, OpenEXR"; the one that is written says how far it is.
  [[nodiscard]] QString deliveryLine(const DeliveryOrder& order) const;
  /// Writes what waits, and tries again what could not be written.
  void goOnDelivering();
  void pauseDelivering();
  void moveDelivery(int from, int to);
  /// Takes an order out of the queue, also the one that is being written; files that are there stay.
  void removeDelivery(int id);
  /// One exposure and the finish of every combined view, small; answered by sheetDrawn.
  void makeSheet();

  [[nodiscard]] QUndoStack& undoStack() { return undo_; }
  [[nodiscard]] bool busy() const { return work_.running(); }
  /// Neither long work, a delivery nor a preview is under way.
  [[nodiscard]] bool settled() const { return !work_.running() && !preview_.running() && !judging_.running() && !detail_.running() && !beside_.running() && !delivering_.running(); }
  void stopWork() { work_.stop(); }

signals:
  void changed();            ///< Anything but the picture.
  void pictureChanged();
  void busyChanged(bool busy);
  void progressed(const QString& stage, double fraction);
  void failed(const QString& sentence);
  void told(const QString& sentence);  ///< Something worth knowing that is no failure.
  void frameArrived(int index);
  void deliveryProgressed();
  void sheetDrawn(const std::vector<ml::SheetPicture>& pictures);
  void detailDrawn(const QImage& part, const QRectF& place); ///< `place`: 0..1 of the finished picture.
  /// Files fell into more than one plain set: to be looked at, then given to takeSorted.
  void sorted(const ml::Grouping& grouping, const QString& name, const QString& jobs);

private:
  /// The combined picture reduced to screen size, and what the tone operator found in the full one.
  struct RadianceState {
    Image<float> preview;
    ToneAnalysis analysis;
    SceneFacts facts;
    FinishReport finish;
    std::shared_ptr<FinishState> state;
    Image<float> noisier; ///< As noisierPlaces.
    std::optional<Judgement> judgement;
    std::optional<WhiteTrim> white;
    // For 100 %; loaded when first asked for.
    std::mutex fullUse;
    Image<float> full, fullPrepared;
    Recipe fullBy;
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
  void takeFirstLook(const View& v, const CombineOptions& options, const Progress& progress);
  [[nodiscard]] CombinedState combinedState() const;
  void keepEarlier();
  void applyRecipe(const Recipe& recipe);
  void makeCamera();
  void shootFrames(std::vector<ExposureSettings> frames, std::vector<int> replaces, bool whenStill);
  void frameLanded(const std::filesystem::path& file, std::shared_ptr<const Frame> frame, ShootState state, const std::vector<int>& replaces);
  void judgeActiveSet();
  struct FrameUse;
  struct SetWords;
  [[nodiscard]] FrameSet* setNamed(const std::string& name);
  void changeUse(const QString& words, const std::vector<int>& frames, bool used);
  void applyUse(const FrameUse& use);
  void applyWords(const SetWords& words);
  void setsChanged();
  void lookIntoWatched();
  void nextWatchedSet();
  void takeWatched(const std::filesystem::path& file);
  void setDone(std::optional<Error> problem);
  void applyProfile();
  template <class Apply, class Value> void pushChange(const QString& text, Value before, Value after, Apply apply, int mergeId = -1);
  void replan();
  [[nodiscard]] std::optional<PlanRequest> planRequest() const;
  [[nodiscard]] ExposureSettings finderSettings() const;
  void refreshFinder();
  void refreshFrame(int index);
  void refreshFinish();
  void refreshJudgement();
  void toolTo(QPointF at);
  void takeCorner(Spot2 at);
  void markCrop(PictureMarks& marks) const;
  void refreshBeside();
  [[nodiscard]] Recipe recipeBeside() const;
  [[nodiscard]] std::filesystem::path lensFrame() const;
  [[nodiscard]] const ToneAnalysis* finishAnalysis() const;
  [[nodiscard]] std::optional<GhostsLeft> ghostsLeft() const;
  void refreshPicture();
  void deliverNext();
  void fileWritten(int order, const std::string& view, const DeliveredFile& file);
  void orderEnded(int order, const std::optional<Error>& problem);
  void leaveDeliveries();
  [[nodiscard]] QString deliverVerdict() const;
  [[nodiscard]] QString lightVerdict() const;
  [[nodiscard]] QString shootVerdict() const;

  std::optional<Job> job_;
  int current_ = -1;
  Station station_ = Station::Light;
  std::shared_ptr<const World> world_;
  std::shared_ptr<SimulatedCamera> device_;
  std::shared_ptr<LockedCamera> camera_; ///< The same; finder and shooting ask from their own threads.
  BracketOrder order_ = BracketOrder::DarkFirst;
  double finderStops_ = 0, spotRadius_ = 0.008;
  std::shared_ptr<const Frame> testFrame_;
  QImage testImage_;
  std::optional<ProposedZones> proposals_;
  std::optional<SceneDistribution> scene_;
  mutable std::optional<Comparison> comparison_;
  std::unique_ptr<ProfileShelf> shelf_;
  std::filesystem::path curves_;
  ShootState shootState_;
  std::optional<WatchedFolder> watched_;
  std::vector<std::filesystem::path> waiting_; ///< Complete files of the watched folder, not yet taken.
  bool watchLost_ = false;
  QTimer watchTimer_;
  PlanChoices choices_;
  std::vector<ExposureSettings> shot_;
  int shownFrame_ = -1;
  std::shared_ptr<const Frame> frame_;
  std::shared_ptr<RadianceState> radiance_;
  bool comparing_ = false;
  QString planProblem_;
  QImage finderImage_, frameImage_, finishImage_, beforeImage_;
  QImage firstLook_; ///< While frames are combined: the same, small and soon there.
  int paintFrom_ = -1;
  double brushRadius_ = 0.03;
  static constexpr int kToolDrags = 1000000; ///< Drag numbers of tools begin here, those of sliders below.
  FinishTool finishTool_ = FinishTool::Light;
  int selectedArea_ = 0, toolDrag_ = 0;
  QPointF toolFrom_;
  Recipe toolRecipe_;
  std::optional<Recipe> toolPending_;
  bool toolMoved_ = false, areasShown_ = false, whiteShown_ = false;
  Comparing comparisonMode_ = Comparing::Off;
  Comparand comparand_;
  Recipe pinned_;
  /// What the view was combined to before, since it was opened; small pictures, to compare with.
  struct EarlierCombination {
    int number;
    std::string stamp;
    QString name;
    std::shared_ptr<RadianceState> radiance;
  };
  std::vector<EarlierCombination> earlier_;
  int earlierCount_ = 0;
  QImage besideImage_;
  double cropRatio_ = 0;
  CropGuide cropGuide_ = CropGuide::None;
  std::optional<CropBox> cropDrag_;
  bool guidesShown_ = false;
  std::vector<Spot2> cornerPoints_;
  std::unique_ptr<LookShelf> lookShelf_;
  QUndoStack undo_;
  std::optional<DeliveryQueue> deliveries_; ///< Of the job that is open.
  int writing_ = 0, filesWritten_ = 0;
  bool deliveryPaused_ = false;
  double deliveryShare_ = 0;
  Background work_, preview_, judging_, detail_, beside_, delivering_;
};

} // namespace ml
