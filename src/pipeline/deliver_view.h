#pragma once
#include "deliver/target.h"
#include "finish/finish.h"

namespace ml {

struct DeliverRequest {
  Recipe recipe;
  std::vector<Target> targets;
  std::string pattern = kNamePattern;
  NameFacts name;
  std::filesystem::path folder;
  MetadataWishes wishes;
  std::optional<std::filesystem::path> metadataFrom;
  double ev100OfUnit = 0;
  bool replace = false; ///< Files of the same name; else the new one gets a number.
};

struct Delivery {
  std::vector<std::filesystem::path> files; ///< One for each target, in their order.
  FinishReport report;
};

/// Finishes radiance once and writes every target. Nothing half-written is left. Errors: InvalidArgument, CannotWrite, Stopped;
/// what was written before an error stays.
Result<Delivery> deliverView(ImageView<const float> radiance, const DeliverRequest& request, const Progress& progress);

} // namespace ml
