#include "core/findings/contrast_rows.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"

namespace core {
namespace {

// A share as a whole percent, with a true minus, and none before 0.
std::string wholePercent(double share) {
  const double percent = std::round(100 * share);
  return percent < 0 ? fmt::format("−{:.0f}", -percent) : fmt::format("{:.0f}", std::abs(percent));
}

class Rows {
 public:
  Rows(const Study& study, const ShapeFindings& findings, std::optional<std::size_t> case_index)
      : study_(study), findings_(findings), case_index_(case_index) {}

  [[nodiscard]] ContrastSection section(ContrastKind kind, const std::string& variable) const {
    ContrastSection section{kind, {}, {}};
    for (std::size_t i = 0; i < findings_.asked.size(); ++i)
      if (findings_.asked[i].kind == kind && (variable.empty() || findings_.asked[i].variable == variable))
        section.rows.push_back(row(i));
    if (!section.rows.empty()) section.heading = headingOf(kind, variable);
    return section;
  }

 private:
  [[nodiscard]] std::string headingOf(ContrastKind kind, const std::string& variable) const {
    switch (kind) {
      case ContrastKind::AgainstBaseline: return "Against " + study_.nameOf(study_.baseline());
      case ContrastKind::Neighbour: return "Step by step";
      case ContrastKind::Simple:
        return fmt::format("What the {} does at each level of the {}", variable, otherOf(variable));
      case ContrastKind::Main: return fmt::format("What the {} does on average", variable);
      case ContrastKind::Interaction: return fmt::format("Does that depend on the {}?", otherOf(variable));
      case ContrastKind::Step: return "Where the change comes from";
      case ContrastKind::Total: return "In all";
    }
    return {};
  }

  [[nodiscard]] std::string otherOf(const std::string& variable) const {
    return study_.variables[study_.variables[0].name == variable ? 1 : 0].name;
  }

  [[nodiscard]] ContrastRow row(std::size_t place) const {
    const AskedContrast& asked = findings_.asked[place];
    ContrastRow row;
    row.asked = place;
    row.title = contrastName(asked);
    const ContrastFinding* found = findings_.find(place, case_index_);
    if (found == nullptr) {
      row.verdict = "not measured wherever it takes";
      return row;
    }
    row.verdict = asked.kind == ContrastKind::Interaction ? interactionText(*found, asked)
                                                          : verdictText(found->verdict, found->threshold, found->marks);
    row.is_counted = !found->marks.any();
    if (found->is_log) {
      row.change = changeText(found->improvement);
      row.percent = found->improvement.value;
      row.interval = found->improvement.interval;
    } else {
      UnitChange change{found->contrast.difference, {}};
      if (found->contrast.inference) change.interval = {found->contrast.inference->lo, found->contrast.inference->hi};
      row.change = unitChangeText(change, study_.cases[*case_index_].metric.unit);
    }
    row.remark = asked.kind == ContrastKind::Neighbour ? stepRemark(place)
                 : asked.kind == ContrastKind::Step    ? shareRemark(asked)
                                                       : std::string();
    return row;
  }

  // "x 1.97, 21 % of it arrives (20 to 22)"
  [[nodiscard]] std::string stepRemark(std::size_t place) const {
    const PairOf& pair = *findings_.asked[place].pair;
    const auto& from = findings_.resources[placeOf(pair.from)];
    const auto& to = findings_.resources[placeOf(pair.to)];
    if (!from || !to) return {};
    std::string text = fmt::format("x {:.2f}", to->value / from->value);
    for (const LadderFinding& ladder : findings_.ladders) {
      if (ladder.case_index != case_index_) continue;
      for (const LadderStep& step : ladder.steps)
        if (step.asked == place && step.elasticity)
          text += fmt::format(", bound by it by {} % ({} to {})", wholePercent(step.elasticity->value),
                              wholePercent(step.elasticity->lo), wholePercent(step.elasticity->hi));
    }
    return text;
  }

  [[nodiscard]] std::string shareRemark(const AskedContrast& asked) const {
    for (const ChainFinding& one : findings_.chains) {
      if (one.case_index != case_index_ || !one.chain.is_clear_of_zero) continue;
      return shareText(one.chain.steps[placeOf(asked.pair->from)]);
    }
    return {};
  }

  const Study& study_;
  const ShapeFindings& findings_;
  std::optional<std::size_t> case_index_;
};

}  // namespace

std::string shareText(const LossStep& step) {
  std::string text = wholePercent(step.share) + " % of it";
  if (step.interval)
    text += fmt::format(" ({} to {})", wholePercent(step.interval->first), wholePercent(step.interval->second));
  return text;
}

std::string interactionText(const ContrastFinding& found, const AskedContrast& asked) {
  const std::string at = " at " + asked.at;
  switch (found.verdict) {
    case Verdict::Gain: return withMarks("the effect is larger" + at, found.marks);
    case Verdict::Loss: return withMarks("the effect is smaller" + at, found.marks);
    case Verdict::GainSizeNotSettled:
      return withMarks("the effect is larger" + at + ", by how much is not settled", found.marks);
    case Verdict::LossSizeNotSettled:
      return withMarks("the effect is smaller" + at + ", by how much is not settled", found.marks);
    case Verdict::RealButNegligible:
    case Verdict::NoDifferenceThatMatters:
      return withMarks("the effect is the same" + at + ", as far as it matters", found.marks);
    case Verdict::NotSettled: break;
  }
  return withMarks("whether the effect differs" + at + " is not settled", found.marks);
}

std::vector<ContrastSection> contrastSections(const Study& study, const ShapeFindings& findings,
                                              std::optional<std::size_t> case_index) {
  if (study.shape == Shape::Pair) return {};
  const Rows rows(study, findings, case_index);
  std::vector<ContrastSection> sections;
  const auto add = [&](ContrastKind kind, const std::string& variable = {}) {
    if (ContrastSection section = rows.section(kind, variable); !section.rows.empty())
      sections.push_back(std::move(section));
  };
  for (const ContrastKind kind :
       {ContrastKind::Neighbour, ContrastKind::AgainstBaseline, ContrastKind::Step, ContrastKind::Total})
    add(kind);
  for (const Variable& variable : study.variables) add(ContrastKind::Simple, variable.name);
  for (const Variable& variable : study.variables) add(ContrastKind::Interaction, variable.name);
  for (const Variable& variable : study.variables) add(ContrastKind::Main, variable.name);
  return sections;
}

std::string enoughText(const Study& study, const ShapeFindings& findings, std::optional<std::size_t> case_index) {
  if (study.shape != Shape::Ladder) return {};
  const LadderFinding* ladder = findings.ladderOf(case_index);
  if (ladder == nullptr || !ladder->enough) return "Which level is enough cannot be said yet: a level has no interval";
  const EnoughPoint& found = *ladder->enough;
  const auto name = [&](std::size_t level) { return study.nameOf(configurationAt(level)); };
  const std::string standing = ladder->is_so_far ? ", provisionally" : "";
  std::string text =
      found.enough ? fmt::format("{} is enough{}: it and whatever offers more fall short of the best by less than {}",
                                 name(*found.enough), standing, thresholdText(ladder->threshold))
                   : "No level is enough" + standing + ": the strongest falls short of the best by as much as matters";
  if (found.lowest_by_itself && found.lowest_by_itself != found.enough)
    text += fmt::format("; {} would be by itself", name(*found.lowest_by_itself));
  return text + ". A level truly close enough may be passed over";
}

std::string ceilingText(const Study& study, const LadderFinding& ladder) {
  if (!ladder.model || !ladder.model->ceiling_fps || !ladder.case_index) return {};
  const std::string& unit = study.cases[*ladder.case_index].metric.unit;
  const TransferModel& model = *ladder.model;
  const bool is_time = unit == "ms";
  std::string text = "an endless link: " + valueText(is_time ? model.t0_ms : *model.ceiling_fps, unit);
  if (!model.t0_interval || model.t0_interval->first <= 0) return text;
  const double one = is_time ? model.t0_interval->first : 1000 / model.t0_interval->second;
  const double other = is_time ? model.t0_interval->second : 1000 / model.t0_interval->first;
  return text + fmt::format(" ({} to {})", numberText(one, unit), numberText(other, unit));
}

}  // namespace core
