// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "judge/pair.h"
#include "judge/set_light.h"
#include "judge/sharpness.h"
#include "plan/planner.h"

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace ml {

struct FrameSharpness;

/// What can be wrong with a frame of a set.
enum class Flaw {
  HighlightsClipped, ///< The darkest frame clips what must keep texture.
  ShadowsNoisy,      ///< The brightest frame leaves the darkest reading below the SNR target.
  WrongTime,         ///< Not the time that was planned.
  SettingsDrifted,   ///< Aperture or ISO are not those of the set.
  ColourDrifted,     ///< White balance changed.
  LightDrifted,      ///< The scene became brighter or darker.
  Soft,              ///< Less sharp than its neighbours.
  CameraMoved,       ///< Shifted or turned against the frames before.
  ThingMoved,        ///< Something large stands elsewhere, or only here.
  NotAlike           ///< Shows something else, or has another size.
};

/// Thresholds, each with its reason; below them differences are those of a sound set.
struct JudgeLimits {
  double clippedShare =
      0.008; ///< Of the picture in the darkest frame: glints and lamps are less. Some less is an offer, not a flaw.
  double zoneClipped = 0.05; ///< Of a zone that must keep texture.
  double stillPixels = 1.2;  ///< On a tripod; registration is good to 0.2 px, thin structure to 1.
  double restPixels = 0.4;   ///< Frames nearer than this to each other were taken without the camera moving.
  double softRatio = 1.0;    ///< ln of the energy of fine structure: a blur of about a pixel.
  double perhapsSoft = 0.8;  ///< From here on it cannot be told.
  LightLimits light;
  double balanceStops = 0.12; ///< Of the white balance that raw files state.
  double movedShare = 0.008;  ///< Of the picture, in one piece: a person, not a leaf.
  double settingStops = 0.2;
};

/// How the camera was held; Unknown: the pixels decide.
enum class Support { Tripod, Hand, Unknown };

struct JudgeSetup {
  std::vector<ExposureSettings> planned; ///< In the order they are fired; empty: not known.
  std::optional<CameraProfile> camera;   ///< For the noise of the shadows.
  std::optional<MustKeep> wanted;
  std::vector<Zone> zones;
  bool curveKnown = false;           ///< Of rendered files: need not be learnt.
  Support support = Support::Tripod; ///< In the hand the camera may move; registration takes care of it.
  JudgeLimits limits;
  bool timesKnown = true; ///< False: estimated from the frames; they say nothing of a light that changed.
  bool fading = false;    ///< The light is known to fade: dusk or dawn.
};

struct FrameJudgement {
  int frame = 0; ///< In the order they arrived.
  ExposureSettings settings;
  double clippedShare = 0;
  double shiftX = 0, shiftY = 0, degrees = 0; ///< Against the frame before it in exposure.
  double softness = 0;                        ///< ln of the sharpest frame's structure over this one's; 0: sharp.
  Stops light{0};                             ///< Change of the scene against its neighbour.
  double movedShare = 0;
  Roi movedPlace; ///< Frame pixels.
  std::vector<Flaw> flaws;
  std::string sentence; ///< What is wrong, or that nothing is.
  [[nodiscard]] bool has(Flaw flaw) const;
};

/// The one thing to do next.
struct NextAction {
  enum class Kind { GoOn, ShootDarker, ShootBrighter, ShootMissing, RepeatFrame, RepeatSet, LeaveOut };
  Kind kind = Kind::GoOn;
  std::vector<ExposureSettings> frames; ///< To be shot, in order.
  std::vector<int> replaces;            ///< Frames (as they arrived) that give way to them, or are left out.
  std::string label;                    ///< For a button: "Shoot one at 1/2000".
};

/// Does the set hold what it was shot for?
enum class Answer {
  Holds,
  DoesNotHold,
  CannotTell ///< Something that these files cannot show might be wrong; nothing is asked for because of it.
};

struct SetVerdict {
  std::string sentence;
  NextAction action;
  Answer answer = Answer::DoesNotHold;
  std::vector<std::string> open; ///< What cannot be told, and why; sentences.
  std::string offer;             ///< What one more frame would add beyond what was asked for; empty: nothing much.
  [[nodiscard]] bool good() const { return answer == Answer::Holds; }
};

/// Judges the frames of one set as they land. Frames may come in any order of exposure; frames that gave way are not
/// judged.
class SetJudge {
public:
  explicit SetJudge(JudgeSetup setup) : setup_(std::move(setup)) {}

  /// Takes the next frame; compares it with its neighbours in exposure.
  void add(const Frame& frame);
  void addSketch(std::shared_ptr<const Sketch> sketch);
  /// This frame gives way to another; `frame` counts as they arrived.
  void setAside(int frame);
  /// A frame that was lit by a flash beside others that were not: it is not compared with them; what they clip, it may
  /// hold.
  [[nodiscard]] bool standsApart(int frame) const;

  [[nodiscard]] int count() const { return int(sketches_.size()); }
  [[nodiscard]] std::vector<FrameJudgement> frames() const;
  /// While shooting goes on, missing frames are no flaw.
  [[nodiscard]] SetVerdict verdict(bool shootingEnded) const;

private:
  struct Member {
    int frame;
    const Sketch* sketch;
  };
  struct Findings; ///< What the frames say together.
  [[nodiscard]] std::vector<Member> byExposure() const;
  /// Stops by which a flash raised what it reached most; nothing: no frame without it is near enough in exposure.
  [[nodiscard]] std::optional<double> raisedByFlash(int frame) const;
  [[nodiscard]] std::string wordsOfLit(int frame) const;
  [[nodiscard]] const PairPlace& place(int a, int b) const;
  [[nodiscard]] Findings find() const;
  /// The place of the second of two frames of the order on the first, where it can be relied on; null elsewhere.
  [[nodiscard]] const PairPlace* placeIn(const Findings& f, std::size_t i, std::size_t j) const;
  void judgeEnds(std::vector<FrameJudgement>& all, const std::vector<Member>& order) const;
  [[nodiscard]] bool bracketedByIso() const;
  void judgeSettings(std::vector<FrameJudgement>& all) const;
  void judgeSharpness(Findings& f) const;
  /// The softest frame of a view, when it is soft: its place in `which`. Limits are `looser` times theirs.
  std::optional<std::size_t> judgeSharpness(Findings& f, const std::vector<std::size_t>& which,
                                            const std::vector<FrameSharpness>& sharpness, double looser) const;
  [[nodiscard]] bool mayBeSharp(const Findings& f, std::size_t i) const;
  [[nodiscard]] static std::function<double(double)> readingOf(const Findings& f);
  void judgePlaces(Findings& f) const;
  void judgeLight(Findings& f) const;
  void judgeMoved(Findings& f) const;
  [[nodiscard]] std::vector<ExposureSettings> missing() const;

  JudgeSetup setup_;
  std::vector<std::shared_ptr<const Sketch>> sketches_;
  std::vector<char> aside_;
  mutable std::map<std::pair<int, int>, PairPlace> places_;
};

} // namespace ml
