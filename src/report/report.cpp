#include "report/report.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>
#include <fmt/ranges.h>

#include "core/estimate/wording.h"
#include "core/findings/thresholds.h"
#include "core/judgement/claim.h"
#include "core/study/schedule.h"
#include "core/values/percent.h"
#include "core/values/personal_text.h"
#include "core/values/shown_text.h"
#include "report/bench_part.h"
#include "report/further_part.h"
#include "report/html.h"
#include "report/observed_part.h"
#include "report/own_words.h"
#include "report/pictures_part.h"
#include "report/results_part.h"
#include "report/shape_part.h"
#include "report/shape_svg.h"
#include "report/used_part.h"
#include "report/went_in_part.h"

namespace report {
namespace {

using core::ConfigurationId;

class Page {
 public:
  Page(const Source& source, const Palette& palette)
      : source_(source), palette_(palette), schedule_(core::scheduleOf(source.study)) {}

  std::string made(const Charts& charts) {
    page_.raw(pageHead(study().bench + ", " + study().variable().name, palette_));
    claim();
    for (const PagePart part : source_.order.parts) write(part, charts);
    if (!source_.order.has(PagePart::Doubts)) openDoubts();
    page_.raw("</body></html>\n");
    return page_.text();
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.study; }
  void write(PagePart part, const Charts& charts) {
    switch (part) {
      case PagePart::Text: return writeOwnWords(page_, source_.order.wordsAt(places_of_words_++));
      case PagePart::Picture: return picture(charts);
      case PagePart::Results: return writeResults(page_, source_);
      case PagePart::Possible: return writePossible(page_, source_);
      case PagePart::Further: return writeFurther(page_, source_);
      case PagePart::Companions: return writeCompanions(page_, source_);
      case PagePart::Used: return writeUsed(page_, source_);
      case PagePart::Bounds: return boundAndFelt();
      case PagePart::Causes: return explanations();
      case PagePart::Method: return method();
      case PagePart::Bench: return writeBench(page_, source_);
      case PagePart::Observed: return writeObserved(page_, source_);
      case PagePart::Pictures: return writePictures(page_, source_);
      case PagePart::Doubts: return doubts();
      case PagePart::WentIn: return writeWentIn(page_, source_);
      case PagePart::Limits: return whatItIsNot();
    }
  }
  void picture(const Charts& charts) {
    writeShape(page_, source_, palette_, charts.shape);
    page_.raw(charts.lever.empty() ? leverChartSvg(study(), findings(), source_.judgement.pins, palette_)
                                   : charts.lever);
    page_.paragraph("Right is better. Beam: estimate. Thick: interval. Shaded: too small to act on.", "soft");
    pinned();
  }
  // Whoever leaves the doubts out of a page leaves out those that somebody has dealt with.
  void openDoubts() {
    std::vector<std::string> open;
    for (const core::Doubt& doubt : source_.judgement.doubts)
      if (!doubt.accepted_because && doubt.rank != core::DoubtRank::Note)
        open.push_back(fmt::format("{}: {}.", core::doubtRankName(doubt.rank), doubt.sentence));
    page_.sentences("Not dealt with:", open);
  }
  /// The two configurations that `findings` is about, as a study: of a pair the study itself.
  [[nodiscard]] const core::Study& pair() const { return source_.judgement.pair_study; }
  [[nodiscard]] const core::Findings& findings() const { return source_.judgement.findings; }

  void claim() {
    page_.raw("<h1>" + Html::sentence(source_.judgement.claim.sentence()) + "</h1>\n");
    if (!source_.judgement.claim.safety.empty()) page_.paragraph(source_.judgement.claim.safety + ".", "strong");
    for (const core::Value& one : source_.judgement.value) page_.paragraph(core::valueText(one, source_.study) + ".");
    unreachable();
    for (const core::ConfigurationId configuration :
         {core::ConfigurationId::Baseline, core::ConfigurationId::Changed}) {
      std::vector<std::string> crossed;
      for (const core::CaseFinding& finding : findings().cases)
        if (finding.holdsOnlyAt() == configuration) crossed.push_back(finding.title);
      if (!crossed.empty())
        page_.paragraph(fmt::format("The target of {:g} FPS is reached at {} only in: {}.", study().target_fps,
                                    pair().nameOf(configuration), fmt::join(crossed, "; ")));
    }
  }

  // A level that cannot be reached is the result, with what was tried on the way to it.
  void unreachable() {
    for (const core::Unreachable& one : source_.judgement.unreachable) {
      const std::string level = study().nameOf(one.configuration);
      page_.paragraph(fmt::format("{} is not reachable on this bench: {}.", level, one.reason), "strong");
      const auto is_on_the_way = [&](int visit) {
        return std::any_of(schedule_.begin(), schedule_.end(), [&](const core::Slot& slot) {
          return slot.visit == visit && slot.configuration == one.configuration;
        });
      };
      std::vector<std::string> attempts;
      for (const core::FlipAttempt& flip : source_.record.flips)
        if (is_on_the_way(flip.visit)) attempts.push_back(fmt::format("The level was set for visit {}.", flip.visit));
      for (const core::Visit& visit : source_.record.visits)
        if (visit.configuration == one.configuration) attempts.push_back(fmt::format("Visit {} began.", visit.planned));
      for (const core::Pass& pass : source_.record.passes)
        if (pass.status == core::PassStatus::Failed && pass.slot < schedule_.size() &&
            schedule_[pass.slot].configuration == one.configuration)
          attempts.push_back(fmt::format("{} at {}, {}, failed: {}",
                                         study().cases[schedule_[pass.slot].case_index].title(), level,
                                         core::passName(schedule_[pass.slot]), pass.failure));
      if (!attempts.empty()) page_.paragraph("What was tried:");
      page_.list(attempts);
    }
  }

  void pinned() {
    std::vector<std::string> items;
    for (const auto& [title, remark] : source_.judgement.pins) items.push_back(title + ": " + remark);
    page_.list(items);
  }

  // Causes are no results: they stand apart, each with its grade.
  void explanations() {
    if (source_.judgement.explanations.empty()) return;
    page_.heading("Why, as far as anybody knows");
    std::vector<std::string> items;
    for (const core::Explanation& one : source_.judgement.explanations)
      items.push_back(fmt::format("{}. {}.", one.case_title, one.sentence(one.person)));
    page_.list(items);
  }

  [[nodiscard]] std::string designText() const {
    const core::Plan& plan = study().plan;
    switch (plan.order) {
      case core::Order::Blocked:
        return fmt::format("blocked: {} at each level, one level after the other",
                           core::countText(plan.passes_per_level, "pass", "passes"));
      case core::Order::ThereAndBack:
        return fmt::format("there and back, {} at each level in two visits",
                           core::countText(plan.passes_per_level, "pass", "passes"));
      case core::Order::BalancedShuffle:
        return fmt::format("{} rounds in a drawn, balanced order, {} a visit", plan.firstPartRounds(),
                           core::countText(plan.passes_per_visit, "pass", "passes"));
    }
    return {};
  }

  static std::string warmUpText(int count) {
    if (count == 0) return "; no warm-ups.";
    return fmt::format("; each visit starts with {}, which {} not counted.",
                       core::countText(count, "warm-up", "warm-ups"), count == 1 ? "is" : "are");
  }

  void method() {
    page_.heading("How it was measured");
    std::vector<std::string> items{
        designText() + warmUpText(study().plan.warm_ups),
        fmt::format("Threshold: {}{}. Yardstick: {}.", core::askedThresholdText(study()),
                    source_.record.judging_changes.empty() ? ", set before the first pass" : "",
                    core::yardstickName(study().yardstick)),
        fmt::format("Machine: {}.", core::schoolName(study().school)),
        "Each pass gives one number; frames are never counted as independent. The interval is computed over rounds, "
        "visits or passes, as said beside each result. Changes are ratios of geometric means, or differences of plain "
        "means where a result is compared in its unit. An interval inside the shaded zone means: no difference that "
        "matters."};
    if (!findings().null_study_date.empty())
      items.push_back("What a flip adds is taken from the null study of " + findings().null_study_date + ".");
    if (study().sharesSpread())
      items.emplace_back(
          "Intervals take up to half of their spread from all configurations, the rest from those they compare.");
    if (!study().plan.looks.empty())
      items.push_back(fmt::format("Interim looks were planned; every interval is wider for them, at {:.4g} %.",
                                  100 * findings().confidence));
    if (study().plan.second_part_rounds > 0)
      items.push_back(fmt::format("A second part of {}, with cases that were added when the plan was complete.",
                                  core::countText(study().plan.second_part_rounds, "round", "rounds")));
    if (study().plan.extension_rounds > 0)
      items.push_back(fmt::format("Extended once by {}, sized from the spread alone{}.",
                                  core::countText(study().plan.extension_rounds, "round", "rounds"),
                                  study().plan.extension_spread == core::ExtensionSpread::FirstPart
                                      ? "; intervals take their spread from the rounds before"
                                      : ""));
    page_.list(items);
  }

  // What held the passes back, and how they felt: beside the numbers, not a part of them.
  void boundAndFelt() {
    std::vector<std::string> items;
    for (const core::CaseFinding& finding : findings().cases) {
      if (finding.bound[0].bound == core::Bound::NotKnown && finding.bound[1].bound == core::Bound::NotKnown) continue;
      items.push_back(fmt::format("{}: {} at {}, {} at {}.", finding.title, core::boundText(finding.bound[0]),
                                  pair().nameOf(core::ConfigurationId::Baseline), core::boundText(finding.bound[1]),
                                  pair().nameOf(core::ConfigurationId::Changed)));
    }
    if (!items.empty()) {
      page_.heading("What bounded each case");
      page_.list(items);
    }
    felt();
  }

  void felt() {
    if (source_.record.felt.empty()) return;
    std::map<std::pair<std::size_t, core::ConfigurationId>, std::map<std::string, int>> words;
    for (const core::Felt& one : source_.record.felt)
      for (const core::Pass& pass : source_.record.passes)
        if (pass.id == one.pass_id && pass.slot < schedule_.size())
          ++words[{schedule_[pass.slot].case_index, schedule_[pass.slot].configuration}][one.word];
    page_.heading("How it felt, said before any number was shown, against what was counted");
    std::vector<std::string> items;
    for (const auto& [where, said] : words) {
      std::vector<std::string> counts;
      for (const auto& [word, times] : said)
        counts.push_back(fmt::format("{} in {}", word, core::countText(times, "pass", "passes")));
      const auto& [case_index, configuration] = where;
      const core::CaseFinding& finding = findings().cases[case_index];
      std::string counted;
      const core::PairOf& both = source_.judgement.pair;
      if (finding.effect && (configuration == both.from || configuration == both.to))
        counted = "; measured " + core::valueText(configuration == both.from ? finding.effect->level_baseline
                                                                             : finding.effect->level_changed,
                                                  finding.metric.unit);
      items.push_back(fmt::format("{} at {}: {}{}.", finding.title, study().nameOf(configuration),
                                  fmt::join(counts, ", "), counted));
    }
    page_.list(items);
  }

  void doubts() {
    page_.heading("What could make it wrong");
    std::vector<std::string> open;
    std::vector<std::string> accepted;
    for (const core::Doubt& doubt : source_.judgement.doubts) {
      if (doubt.accepted_because)
        accepted.push_back(fmt::format("{}. Accepted: {}", doubt.sentence, *doubt.accepted_because));
      else
        open.push_back(fmt::format("{}: {}. {}.", core::doubtRankName(doubt.rank), doubt.sentence, doubt.remedy));
    }
    if (open.empty()) page_.paragraph("No open doubt.");
    page_.list(open);
    page_.list(accepted);
  }

  void whatItIsNot() {
    page_.heading("What this is not");
    page_.list(
        {"Not a statement about other machines, other drivers or other versions of these workloads: it was measured on "
         "this bench.",
         "Not a statement about cases that were not run; “cases like these” is as good as these are a fair sample of "
         "them.",
         "Not a promise that anybody feels it: read the milliseconds beside the percent."});
  }

  const Source& source_;
  const Palette& palette_;
  const std::vector<core::Slot> schedule_;
  Html page_;
  std::size_t places_of_words_ = 0;  ///< written so far
};

}  // namespace

std::string chartSvg(const core::Study& study, const core::Judgement& judgement, const Palette& palette, int width) {
  const std::string shape = shapeSvg(study, judgement.shape, judgement.shape.headlineCase(), palette, width,
                                     shapeHeight(study, kShapeHeight));
  return shape.empty() ? leverChartSvg(study, judgement.findings, judgement.pins, palette, width) : shape;
}

std::string escaped(std::string_view text) {
  std::string safe;
  for (const char c : core::shownText(core::withoutHomes(text))) {
    switch (c) {
      case '&': safe += "&amp;"; break;
      case '<': safe += "&lt;"; break;
      case '>': safe += "&gt;"; break;
      case '"': safe += "&quot;"; break;
      default: safe += c;
    }
  }
  return safe;
}

core::Status checkReport(const core::Judgement& judgement) {
  // A level that cannot be reached is the result of a study that has no other, and keeps its plan from its end.
  // One that compares anything yet prints a percentage, which nobody is to see before the others are in.
  const bool is_unreachable_alone = !judgement.unreachable.empty() && judgement.shape.contrasts.empty();
  if (is_unreachable_alone || (!judgement.is_sealed && judgement.findings.done.is_first_done)) return core::Done{};
  return core::Error{core::ErrorKind::NotAllowed, "the plan is not complete: a provisional verdict enters no report",
                     "report", "Finish the plan, or stop at an interim look"};
}

core::Judgement withoutNames(core::Judgement judgement) {
  std::map<std::string, std::size_t> people;
  const auto number = [&](std::string& person) {
    person = fmt::format("Person {}", people.emplace(person, people.size() + 1).first->second);
  };
  for (core::Explanation& one : judgement.explanations) number(one.person);
  for (core::Prediction& one : judgement.predictions) number(one.person);
  return judgement;
}

core::Result<std::string> htmlPage(const Source& source, const Palette& palette, const Charts& charts) {
  if (auto fine = checkReport(source.judgement); !fine) return fine.error();
  if (source.names_people) return Page(source, palette).made(charts);
  const core::Judgement nameless = withoutNames(source.judgement);
  const Source unnamed{source.study,   source.record, nameless,        source.program_version,
                       source.made_on, true,          source.pictures, source.order};
  return Page(unnamed, palette).made(charts);
}

}  // namespace report
