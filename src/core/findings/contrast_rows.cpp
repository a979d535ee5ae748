#include "core/findings/contrast_rows.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/values/percent.h"

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
      case ContrastKind::Interaction:
        return fmt::format("Does the effect of the {} depend on the {}?", variable, otherOf(variable));
      case ContrastKind::Step: return "Where the change comes from";
      case ContrastKind::Total: return "The whole chain";
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
      row.verdict = "not measured at every level that it needs";
      return row;
    }
    row.verdict = asked.kind == ContrastKind::Interaction ? interactionText(findings_, place, case_index_)
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

  // "×1.97, 21 % of it (20 to 22)": of the resource, what arrives in the result
  [[nodiscard]] std::string stepRemark(std::size_t place) const {
    const PairOf& pair = *findings_.asked[place].pair;
    const auto& from = findings_.resources[placeOf(pair.from)];
    const auto& to = findings_.resources[placeOf(pair.to)];
    if (!from || !to || !isOfOneKind(*from, *to)) return {};
    std::string text = fmt::format("×{:.2f}", to->value / from->value);
    for (const LadderFinding& ladder : findings_.ladders) {
      if (ladder.case_index != case_index_) continue;
      for (const LadderStep& step : ladder.steps)
        if (step.asked == place && step.elasticity)
          text += fmt::format(", {} % of it ({} to {})", wholePercent(step.elasticity->value),
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

namespace {

// The effect of which an interaction asks, at one level of the other variable.
const ContrastFinding* simpleEffect(const ShapeFindings& findings, const AskedContrast& of, const std::string& at,
                                    std::optional<std::size_t> case_index) {
  for (std::size_t i = 0; i < findings.asked.size(); ++i) {
    const AskedContrast& asked = findings.asked[i];
    if (asked.kind == ContrastKind::Simple && asked.variable == of.variable && asked.to == of.to && asked.at == at)
      return findings.find(i, case_index);
  }
  return nullptr;
}

// What surely gains at both is a gain, what surely loses a loss; anything else is an effect, better or worse.
struct EffectWords {
  const char* noun;
  const char* more;  // where the interaction is positive
  const char* less;
};
EffectWords wordsFor(const ContrastFinding* here, const ContrastFinding* there) {
  const auto lies = [](const ContrastFinding* one, bool is_above) {
    if (one == nullptr || !one->improvement.interval || !one->is_log) return false;
    return is_above ? one->improvement.interval->lo > 0 : one->improvement.interval->hi < 0;
  };
  if (lies(here, true) && lies(there, true)) return {"gain", "larger", "smaller"};
  if (lies(here, false) && lies(there, false)) return {"loss", "smaller", "larger"};
  return {"effect", "better", "worse"};
}

}  // namespace

std::string interactionText(const ShapeFindings& findings, std::size_t place, std::optional<std::size_t> case_index) {
  const AskedContrast& asked = findings.asked[place];
  const ContrastFinding& found = *findings.find(place, case_index);
  const ContrastFinding* here = simpleEffect(findings, asked, asked.at, case_index);
  const ContrastFinding* there = simpleEffect(findings, asked, asked.against, case_index);
  const EffectWords words = wordsFor(here, there);
  const auto differs = [&](const char* how, const char* open) {
    return fmt::format("the {} is {} at {}{}", words.noun, how, asked.at, open);
  };
  constexpr const char* kOpen = ", by how much is not settled";
  std::string text = fmt::format("whether the {} differs at {} is not settled", words.noun, asked.at);
  switch (found.verdict) {
    case Verdict::Gain: text = differs(words.more, ""); break;
    case Verdict::Loss: text = differs(words.less, ""); break;
    case Verdict::GainSizeNotSettled: text = differs(words.more, kOpen); break;
    case Verdict::LossSizeNotSettled: text = differs(words.less, kOpen); break;
    case Verdict::RealButNegligible:
    case Verdict::NoDifferenceThatMatters: text = differs("the same", ", as far as it matters"); break;
    case Verdict::NotSettled: break;
  }
  if (here != nullptr && there != nullptr && here->is_log && there->is_log)
    text += fmt::format(": {} there, {} at {}", percentText(here->improvement.value),
                        percentText(there->improvement.value), asked.against);
  return withMarks(std::move(text), found.marks);
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

namespace {

/// What a ladder says of how much is enough.
class EnoughWords {
 public:
  EnoughWords(const Study& study, const ShapeFindings& findings, const LadderFinding& ladder)
      : study_(study), findings_(findings), ladder_(ladder) {}

  [[nodiscard]] std::string inShort() const {
    const std::string standing = ladder_.is_so_far ? ", provisionally" : "";
    switch (ladder_.reading) {
      case EnoughReading::Enough: return name(*ladder_.enough->enough) + " is enough" + standing;
      case EnoughReading::NoLowerLevel:
        return fmt::format("no level below {} is {}enough{}", name(ladder_.order.back()),
                           ladder_.is_below_proved ? "" : "shown to be ", standing);
      case EnoughReading::NoLevel: return "no level is enough" + standing;
      case EnoughReading::Open: break;
    }
    return "not settled which level is enough";
  }

  // Of how many of a suite's cases a level above still brings as much as matters.
  [[nodiscard]] std::string stillGaining() const {
    if (ladder_.case_index || ladder_.reading != EnoughReading::Enough) return {};
    int gaining = 0;
    for (const std::size_t one : findings_.suite_cases) gaining += doesGainAbove(one, *ladder_.enough->enough);
    if (gaining == 0) return {};
    return fmt::format("{} of {} cases still {} above it", gaining, findings_.suite_cases.size(),
                       gaining == 1 ? "gains" : "gain");
  }

  [[nodiscard]] std::string sentence() const {
    std::string text = inShort();
    text.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(text.front())));
    const std::string threshold = thresholdText(ladder_.threshold);
    switch (ladder_.reading) {
      case EnoughReading::Enough:
        text += fmt::format(": no measured level above it brings {} or more", threshold);
        if (const std::string gaining = stillGaining(); !gaining.empty()) text += "; yet " + gaining;
        break;
      case EnoughReading::NoLowerLevel:
        text += fmt::format("; whether {} is, nobody has measured: no level above it has a result{}",
                            name(ladder_.order.back()), lastStep());
        break;
      case EnoughReading::NoLevel:
        text += fmt::format(": even {} falls short of the best by {} or more", name(ladder_.order.back()), threshold);
        break;
      case EnoughReading::Open: break;
    }
    const auto& alone = ladder_.enough->lowest_by_itself;
    const bool is_said = ladder_.reading == EnoughReading::Enough && alone == ladder_.enough->enough;
    if (alone && !is_said && *alone != ladder_.order.back())
      text += fmt::format(". {} alone would pass, a level above it does not", name(*alone));
    std::string above;
    for (const ConfigurationId one : ladder_.unmeasured) above += (above.empty() ? "" : ", ") + study_.nameOf(one);
    if (!above.empty()) text += ". Not measured: " + above;
    return text + ". This rule is cautious: a lower level may be enough too";
  }

 private:
  [[nodiscard]] std::string name(std::size_t place) const { return study_.nameOf(configurationAt(place)); }

  // Does a level above surely bring that case something, and perhaps as much as matters? Then its own enough lies
  // above.
  [[nodiscard]] bool doesGainAbove(std::size_t case_index, std::size_t level) const {
    const LadderFinding* own = findings_.ladderOf(case_index);
    if (own == nullptr || !own->enough) return false;
    const std::vector<std::size_t>& order = own->order;
    const auto at = [&](std::size_t place) { return std::find(order.begin(), order.end(), place) - order.begin(); };
    const bool is_best_above = at(own->enough->best) > at(level);
    return is_best_above && own->enough->levels[level].lower > 0 && !own->enough->levels[level].is_enough;
  }

  // "; the step to Gen 4 still brought +3.4 %, bound by the link by 40 %"
  [[nodiscard]] std::string lastStep() const {
    for (const LadderStep& step : ladder_.steps) {
      const AskedContrast& asked = findings_.asked[step.asked];
      const ContrastFinding* found = findings_.find(step.asked, ladder_.case_index);
      if (placeOf(asked.pair->to) != ladder_.order.back() || found == nullptr || !found->is_log) continue;
      std::string text = fmt::format(". The step to it brought {}", percentText(found->improvement.value));
      if (step.elasticity)
        text += fmt::format(", bound by the {} by {} %", study_.variable().name, wholePercent(step.elasticity->value));
      return text;
    }
    return {};
  }

  const Study& study_;
  const ShapeFindings& findings_;
  const LadderFinding& ladder_;
};

}  // namespace

std::string enoughInShort(const Study& study, const ShapeFindings& findings, const LadderFinding& ladder) {
  const EnoughWords words(study, findings, ladder);
  const std::string gaining = words.stillGaining();
  return words.inShort() + (gaining.empty() ? "" : " (" + gaining + ")");
}

std::string enoughText(const Study& study, const ShapeFindings& findings, std::optional<std::size_t> case_index) {
  if (study.shape != Shape::Ladder) return {};
  const LadderFinding* ladder = findings.ladderOf(case_index);
  if (ladder == nullptr || !ladder->enough) return "Which level is enough cannot be said: a level has no interval";
  return EnoughWords(study, findings, *ladder).sentence();
}

std::string foretoldText(const Study& study, const LadderFinding& ladder, const Foretold& one) {
  const std::string& unit = study.cases[*ladder.case_index].metric.unit;
  const std::string text =
      fmt::format("Expected by the model, not measured: {} at {}", valueText(one.value, unit), study.nameOf(one.level));
  return one.interval ? text + fmt::format(" ({} to {})", numberText(one.interval->first, unit),
                                           numberText(one.interval->second, unit))
                      : text;
}

std::string ceilingText(const Study& study, const LadderFinding& ladder) {
  if (!ladder.model || !ladder.model->ceiling_fps || !ladder.case_index) return {};
  const std::string& unit = study.cases[*ladder.case_index].metric.unit;
  const TransferModel& model = *ladder.model;
  const bool is_time = unit == "ms";
  std::string text = "With an unlimited link the transfer model expects " +
                     valueText(is_time ? model.t0_ms : *model.ceiling_fps, unit);
  if (!model.t0_interval || model.t0_interval->first <= 0) return text;
  const double one = is_time ? model.t0_interval->first : 1000 / model.t0_interval->second;
  const double other = is_time ? model.t0_interval->second : 1000 / model.t0_interval->first;
  return text + fmt::format(" ({} to {})", numberText(one, unit), numberText(other, unit));
}

}  // namespace core
