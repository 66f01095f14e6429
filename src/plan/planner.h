#pragma once
#include "base/result.h"
#include "plan/sensor_model.h"

#include <string>
#include <vector>

namespace ml {

/// What the scene asks for and how sure the photographer wants to be.
struct PlanRequest {
  Stops low{0};                 ///< Darkest reading that must keep texture, EV100.
  Stops high{0};                ///< Brightest one.
  FNumber aperture{8};          ///< f/8: the usual middle of the sharp range (common practice, no source).
  std::optional<Iso> iso;       ///< Empty: the camera's base ISO.
  double snrTarget = 10;        ///< ISO 12232: 10 acceptable, 40 excellent.
  Stops highlightMargin{1.0 / 3}; ///< A spot reading averages over texture brighter than itself.
  std::optional<Seconds> longest; ///< Shorter than the camera's own limit, for hand-held work.
  std::string school = "auto";

  [[nodiscard]] std::optional<std::string> invalidReason() const;
};

/// The light a bracket records.
struct Coverage {
  Stops low, high;        ///< Darkest reading at the SNR target, brightest below clipping less the margin.
  Stops spareLow;         ///< What is left below the darkest reading; negative: what is missing.
  Stops spareHigh;        ///< What is left above the brightest one; negative: what is missing.
  double worstSnr = 0;    ///< Least SNR of the merged bracket over the readings' range.
  Stops worstAt;          ///< Where.
  [[nodiscard]] bool complete(double snrTarget) const {
    return spareLow.value >= -1e-9 && spareHigh.value >= -1e-9 && worstSnr >= snrTarget * (1 - 1e-9);
  }
};

struct Plan {
  CameraProfile camera;
  PlanRequest request;
  std::string school;               ///< The school that was applied; never "auto".
  int count = 1;
  Stops step{0};
  Seconds centre;                   ///< Time of the middle of the bracket, exact.
  std::vector<ExposureSettings> frames; ///< Shortest first.
  Coverage coverage;
  bool covers = false;
};

/// Named ways to bracket; "auto" is the search over everything the camera offers.
struct School {
  std::string id, name;
  int count = 0;        ///< 0: free.
  Stops step{0};        ///< Used when count > 1.
};
[[nodiscard]] const std::vector<School>& schools();

/// Smallest bracket that covers low..high: fewest frames, then least exposure time, ties to the higher worst SNR.
/// Exact over the camera's counts and steps and all third-stop centres. When nothing covers, the highlights are kept
/// (a clipped window cannot be mended, noise can be lived with) and the plan says what is missing.
/// Objective after Hasinoff, Durand, Freeman, CVPR 2010. Errors: InvalidArgument for a bad request or school.
[[nodiscard]] Result<Plan> planBracket(const CameraProfile& camera, const PlanRequest& request);

[[nodiscard]] Coverage coverageOf(const CameraProfile& camera, const PlanRequest& request,
                                  const std::vector<ExposureSettings>& frames);

/// The verdict: one sentence with figures.
[[nodiscard]] std::string verdict(const Plan& plan);

} // namespace ml
