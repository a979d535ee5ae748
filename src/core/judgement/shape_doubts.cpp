#include "core/judgement/shape_doubts.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/estimate/holm.h"
#include "core/estimate/wording.h"
#include "core/machine/device_path.h"
#include "core/machine/held_conditions.h"

namespace core {
namespace {

class ShapeDoubts {
 public:
  ShapeDoubts(const Study& study, const ShapeFindings& findings, const Record& record)
      : study_(study), findings_(findings), record_(record) {}

  std::vector<Doubt> take() {
    addDoubleSteps();
    for (const LadderFinding& one : findings_.ladders) addReversals(one);
    addMissing();
    addUnevenSpread();
    addDriversOfGroups();
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
          "Check what came along with it: latency, heat, a limit; or whether the levels are the other way round");
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

  // Levels need not scatter alike. Asked of each case, in one family; the suite has its own mean of them.
  void addUnevenSpread() {
    addUnevenSpread(0, study_.firstPartCases());
    addUnevenSpread(study_.firstPartCases(), study_.cases.size());
  }

  void addUnevenSpread(std::size_t first, std::size_t end) {
    std::vector<const ContrastFinding*> shared;
    std::vector<std::optional<double>> p;
    for (std::size_t i = first; i < end; ++i)
      if (const ContrastFinding* one = aboutHeadlinePair(i); one && one->shared && one->is_log) {
        shared.push_back(one);
        p.push_back(one->shared->residual.p_alike);
      }
    const auto adjusted = holmAdjusted(p);
    constexpr double kAlike = 0.05;
    for (std::size_t i = 0; i < shared.size(); ++i) {
      if (!adjusted[i] || *adjusted[i] >= kAlike) continue;
      const ContrastFinding& one = *shared[i];
      const AskedContrast& asked = findings_.asked[one.asked];
      const Case& of = study_.cases[*one.case_index];
      const auto own = percentChangeOf(*onImprovementScale(one.shared->own, of.metric.direction));
      doubts_.add(
          doubt::kUnevenSpread, {of.title(), one.case_index},
          fmt::format("{}: passes at {} scatter unlike those at the other levels, p {:.2g}; by the spread of the "
                      "two alone {} over {} is {}",
                      of.title(), study_.nameOf(one.shared->residual.widest), *adjusted[i], asked.to, asked.from,
                      changeText(own)),
          "Find out what makes that level restless; let each comparison have its own spread in the next study");
    }
  }

  [[nodiscard]] const ContrastFinding* aboutHeadlinePair(std::size_t case_index) const {
    const PairOf pair = headlinePair(study_);
    for (std::size_t i = 0; i < findings_.asked.size(); ++i)
      if (findings_.asked[i].pair == pair)
        if (const ContrastFinding* one = findings_.find(i, case_index)) return one;
    return nullptr;
  }

  // Within a group the driver is held like anything else; between two of them nobody holds it, and it is said.
  void addDriversOfGroups() {
    for (std::size_t i = 0; i < study_.variables.size(); ++i) {
      if (!study_.variables[i].is_group) continue;
      std::vector<std::string> said;
      std::set<std::string> drivers;
      for (std::size_t level = 0; level < study_.variables[i].levels.size(); ++level) {
        const std::string driver = driverAt(i, level);
        if (driver.empty()) continue;
        drivers.insert(driver);
        said.push_back(fmt::format("at {} {}", study_.variables[i].levels[level].name, driver));
      }
      if (drivers.size() < 2) continue;
      doubts_.add(doubt::kGroupsDiffer, {study_.variables[i].name},
                  fmt::format("The driver is not one: {}", fmt::join(said, "; ")),
                  fmt::format("Where the change differs between them, {} and driver differ together: say both",
                              study_.variables[i].name));
    }
  }

  // As the first capture with it shows: that it stays so is held elsewhere.
  [[nodiscard]] std::string driverAt(std::size_t variable, std::size_t level) const {
    const HeldCondition* driver = findHeldCondition("device/driver");
    for (const VisitCapture& one : record_.captures) {
      const auto visit = std::find_if(record_.visits.begin(), record_.visits.end(),
                                      [&](const Visit& other) { return other.id == one.visit_id; });
      if (visit == record_.visits.end() || study_.levelsAt(visit->configuration)[variable] != level) continue;
      const std::string& declared = study_.variables[variable].device;
      const Fact held = heldFact(*driver, one.capture, declared.empty() ? likelyGraphicsDevice(one.capture) : declared);
      if (held.isRead()) return held.value;
    }
    return {};
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
                fmt::format("What {} offers is not known as a number: how much of a step arrives cannot be said",
                            unknown.size() == 1 ? unknown.front() : fmt::format("{} levels", unknown.size())),
                "Enter it with the level, or let the study measure it");
  }

  const Study& study_;
  const ShapeFindings& findings_;
  const Record& record_;
  DoubtList doubts_;
};

}  // namespace

std::vector<Doubt> shapeDoubts(const Study& study, const ShapeFindings& findings, const Record& record) {
  if (study.shape == Shape::Pair) return {};
  return ShapeDoubts(study, findings, record).take();
}

}  // namespace core
