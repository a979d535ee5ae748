#include "core/judgement/shape_doubts.h"

#include <algorithm>

#include <fmt/format.h>

#include "core/estimate/wording.h"

namespace core {
namespace {

class ShapeDoubts {
 public:
  ShapeDoubts(const Study& study, const ShapeFindings& findings) : study_(study), findings_(findings) {}

  std::vector<Doubt> take() {
    addDoubleSteps();
    for (const LadderFinding& one : findings_.ladders) addReversals(one);
    addMissing();
    addUnknownResource();
    return doubts_.take();
  }

 private:
  void addDoubleSteps() {
    for (const AskedContrast& asked : findings_.asked) {
      if (asked.kind != ContrastKind::Step) continue;
      const auto moved = movedBetween(study_, asked.pair->from, asked.pair->to);
      if (moved.size() == 1) continue;
      doubts_.add(doubt::kDoubleStep, {fmt::format("{} to {}", asked.from, asked.to)},
                  fmt::format("From {} to {} {} variables move at once: {}", asked.from, asked.to, moved.size(),
                              asked.variable),
                  "Put a configuration between the two, so that each step moves one; or accept it as one step of both");
    }
  }

  void addReversals(const LadderFinding& ladder) {
    for (const LadderStep& step : ladder.steps) {
      if (!step.is_reversal) continue;
      const AskedContrast& asked = findings_.asked[step.asked];
      const ContrastFinding* found = findings_.find(step.asked, ladder.case_index);
      const std::string of = ladder.case_index ? study_.cases[*ladder.case_index].title() + ": " : "";
      doubts_.add(
          doubt::kReversal,
          {fmt::format("{} to {}{}", asked.from, asked.to,
                       ladder.case_index ? "/" + study_.cases[*ladder.case_index].title() : ""),
           ladder.case_index},
          fmt::format("{}the stronger level is slower: {} over {} {}", of, asked.to, asked.from,
                      changeText(found->improvement)),
          "Look what came along with it: latency, heat, a limit; or whether the levels are the other way round");
    }
  }

  // One sentence for each configuration, not one for each case.
  void addMissing() {
    std::vector<std::string> told;
    for (const MissingResult& one : findings_.missing) {
      if (one.reason == "not run yet" || std::find(told.begin(), told.end(), one.name) != told.end()) continue;
      told.push_back(one.name);
      const auto cases =
          std::count_if(findings_.missing.begin(), findings_.missing.end(),
                        [&](const MissingResult& other) { return other.name == one.name && other.case_index; });
      const std::string who = one.case_index
                                  ? countText(static_cast<int>(cases), "case has no result", "cases have no result")
                                  : "no case has a result";
      doubts_.add(doubt::kMissing, {one.name}, fmt::format("At {} {}: {}", one.name, who, one.reason),
                  "What needs it is left out; run it, or read the rest without it");
    }
  }

  void addUnknownResource() {
    if (study_.shape != Shape::Ladder) return;
    std::vector<std::string> unknown;
    for (std::size_t i = 0; i < findings_.resources.size(); ++i)
      if (!findings_.resources[i]) unknown.push_back(study_.nameOf(configurationAt(i)));
    const auto usual = usualResource(findings_.resources);
    std::string other;
    for (std::size_t i = 0; i < findings_.resources.size(); ++i)
      if (const auto& one = findings_.resources[i]; one && !isOfOneKind(*one, *usual))
        other += fmt::format("{}{}: {} {}, {}", other.empty() ? "" : "; ", study_.nameOf(configurationAt(i)),
                             numberText(one->value, one->unit), one->unit, resourceSourceName(one->source));
    if (!other.empty())
      doubts_.add(doubt::kNoResource, {"other"},
                  fmt::format("What levels offer is not known in one way: the others by {} {}, but {}", usual->unit,
                              resourceSourceName(usual->source), other),
                  "They stay out of the model and of its predictions; enter all in one unit, or none");
    if (unknown.empty()) return;
    doubts_.add(doubt::kNoResource,
                fmt::format("What {} offers is not known as a number: how far a step is bound by it cannot be said",
                            unknown.size() == 1 ? unknown.front() : fmt::format("{} levels", unknown.size())),
                "Enter it with the level, or let the study measure it");
  }

  const Study& study_;
  const ShapeFindings& findings_;
  DoubtList doubts_;
};

}  // namespace

std::vector<Doubt> shapeDoubts(const Study& study, const ShapeFindings& findings) {
  if (study.shape == Shape::Pair) return {};
  return ShapeDoubts(study, findings).take();
}

}  // namespace core
