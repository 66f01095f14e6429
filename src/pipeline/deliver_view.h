// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "deliver/target.h"
#include "finish/judgement.h"

#include <functional>

namespace ml {

struct DeliverRequest {
  Recipe recipe;
  std::vector<Target> targets;
  std::string pattern = kNamePattern;
  NameFacts name;
  std::filesystem::path folder;
  MetadataWishes wishes;
  std::optional<std::filesystem::path> metadataFrom;
  SceneFacts facts;
  std::optional<GhostsLeft> ghosts;            ///< What the merge says; empty: not looked for.
  std::shared_ptr<const Image<float>> noisier; ///< As noisierPlaces; null or empty: nowhere.
  bool replace = false;                        ///< Files of the same name; else the new one gets a number.
  /// Told of each file as soon as it is there, on the thread that writes: what was written before a stop counts.
  std::function<void(const Target& target, const std::filesystem::path& file)> written;
};

struct Delivery {
  std::vector<std::filesystem::path> files; ///< One for each target, in their order.
  FinishReport report;
  Judgement judgement;
};

/// Longest side of the picture that is judged.
inline constexpr int kJudgedEdge = 1200;

/// Judges what a recipe makes of prepared radiance, reduced to kJudgedEdge. Errors: Stopped.
Result<Judgement> judgeView(const PictureRows& prepared, const ToneAnalysis& analysis, const Recipe& recipe,
                            const JudgedShape& shape, const Progress& progress);

/// What a radiance file says of its scene; unknown where it says nothing.
[[nodiscard]] SceneFacts factsOfRadiance(const std::filesystem::path& file);

/// The same from radiance as combined, without a lens profile or a word on ghosts.
Result<Judgement> judgeRadiance(const PictureRows& radiance, const Recipe& recipe, const SceneFacts& facts,
                                const Progress& progress);

/// Finishes radiance once and writes every target; of a store it is held as a whole only where a target or the recipe
/// needs that (the archive, healing, noise, shape, spheres). Nothing half-written is left. Errors: InvalidArgument,
/// CannotWrite, Stopped; what was written before an error stays.
Result<Delivery> deliverView(const PictureRows& radiance, const DeliverRequest& request, const Progress& progress);

} // namespace ml
