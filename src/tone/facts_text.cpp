// SPDX-License-Identifier: GPL-3.0-or-later
#include "tone/facts_text.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>

namespace ml {

bool soundTies(const std::vector<Tie>& ties) {
  if (ties.size() < 4 || ties.size() > 400) return false;
  for (std::size_t i = 0; i < ties.size(); ++i) {
    const Tie& t = ties[i];
    if (!std::isfinite(t.scene) || !std::isfinite(t.paper) || std::abs(t.scene) > 100 || t.paper > 20 || t.paper < -60)
      return false;
    if (i > 0 && (t.scene <= ties[i - 1].scene || t.paper <= ties[i - 1].paper)) return false;
  }
  return true;
}

std::map<std::string, std::string> textOf(const SceneFacts& facts) {
  std::map<std::string, std::string> out;
  char number[64];
  if (std::isfinite(facts.ev100OfUnit)) {
    std::snprintf(number, sizeof number, "%.4f", facts.ev100OfUnit);
    out["ev100OfUnit"] = number;
  }
  std::string ties;
  for (const Tie& tie : facts.metered) {
    std::snprintf(number, sizeof number, "%s%.4f:%.4f", ties.empty() ? "" : " ", tie.scene, tie.paper);
    ties += number;
  }
  if (!ties.empty()) out["shownAs"] = ties;
  if (facts.asItIs) out["asItIs"] = "yes";
  if (facts.sphere)
    out["projection"] = "equirectangular sphere";
  else if (facts.plumb)
    out["projection"] = "verticals plumb";
  return out;
}

SceneFacts factsFromText(const std::map<std::string, std::string>& text) {
  SceneFacts facts;
  if (const auto found = text.find("ev100OfUnit"); found != text.end()) {
    char* end = nullptr;
    const double value = std::strtod(found->second.c_str(), &end);
    if (end != found->second.c_str() && std::abs(value) < 100) facts.ev100OfUnit = value;
  }
  const auto projection = text.find("projection");
  facts.sphere = projection != text.end() && projection->second == "equirectangular sphere";
  facts.plumb = projection != text.end() && (facts.sphere || projection->second == "verticals plumb");
  const auto found = text.find("shownAs");
  if (found == text.end()) return facts;
  const char* at = found->second.c_str();
  while (*at && facts.metered.size() <= 400) {
    char* end = nullptr;
    const double scene = std::strtod(at, &end);
    if (end == at || *end != ':') break;
    at = end + 1;
    const double paper = std::strtod(at, &end);
    if (end == at) break;
    facts.metered.push_back({scene, paper});
    at = end;
    while (*at == ' ') ++at;
  }
  if (*at || !soundTies(facts.metered)) facts.metered.clear();
  const auto asItIs = text.find("asItIs");
  facts.asItIs = !facts.metered.empty() && asItIs != text.end() && asItIs->second == "yes";
  return facts;
}

} // namespace ml
