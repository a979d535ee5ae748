#include "report/report.h"

#include <algorithm>
#include <array>

#include <fmt/format.h>

#include "core/percent.h"
#include "core/presets_held.h"
#include "core/wording.h"

namespace report {
namespace {

using core::Side;

// What a reader wants to know of a bench, wherever it can be read; the whole captures are in the study file.
constexpr std::array kBenchFacts{"cpu/model",
                                 "cpu/cores",
                                 "cpu/smt",
                                 "cpu/governor",
                                 "memory/installed",
                                 "memory/total",
                                 "dmi/memory/*/configured_speed",
                                 "firmware/board",
                                 "firmware/version",
                                 "kernel/release",
                                 "pci/*/current_link_speed",
                                 "pci/*/current_link_width",
                                 "pci/*/product_name",
                                 "pci/*/driver_version",
                                 "graphics/*",
                                 "power/*",
                                 "stated/*"};

class Page {
 public:
  Page(const Source& source, const Palette& palette) : source_(source), palette_(palette) {}

  std::string made(const std::string& chart) {
    begin();
    claim();
    out_ += chart.empty() ? leverChartSvg(study(), findings(), palette_) : chart;
    paragraph("Right is better. Beam: estimate. Thick: interval. Shaded: too small to act on.", "soft");
    pinned();
    table();
    presets();
    readings();
    lows();
    explanations();
    method();
    bench();
    doubts();
    disclosure();
    whatItIsNot();
    out_ += "</body></html>\n";
    return std::move(out_);
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.study; }
  [[nodiscard]] const core::Findings& findings() const { return source_.judgement.findings; }

  void begin() {
    out_ += fmt::format(
        "<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><title>{0}</title><style>"
        "body{{background:{1};color:{2};font-family:B612,sans-serif;font-size:14px;max-width:960px;margin:24px "
        "auto;padding:0 16px}}"
        "h1{{font-size:24px;font-weight:bold}}h2{{font-size:17px;margin-top:28px}}"
        "table{{border-collapse:collapse;width:100%}}th,td{{text-align:left;padding:4px 8px;border-bottom:1px solid "
        "{3}}}"
        "td.number,th.number{{text-align:right}}.soft{{color:{4}}}.stop{{font-weight:bold}}svg{{max-width:100%;height:"
        "auto}}"
        "</style></head><body>\n",
        escaped(study().bench + ", " + study().variable), palette_.paper, palette_.ink, palette_.line,
        palette_.soft_ink);
  }

  void heading(const std::string& words) { out_ += fmt::format("<h2>{}</h2>\n", escaped(words)); }
  void paragraph(const std::string& words, const char* kind = "") {
    out_ += *kind ? fmt::format("<p class=\"{}\">{}</p>\n", kind, escaped(words))
                  : fmt::format("<p>{}</p>\n", escaped(words));
  }
  void list(const std::vector<std::string>& items) {
    if (items.empty()) return;
    out_ += "<ul>";
    for (const std::string& item : items) out_ += "<li>" + escaped(item) + "</li>";
    out_ += "</ul>\n";
  }
  void row(const std::vector<std::string>& cells, const char* tag = "td", std::size_t words = 1) {
    const bool is_head = std::string_view(tag) == "th";
    out_ += "<tr>";
    for (std::size_t i = 0; i < cells.size(); ++i)
      out_ += i < words ? fmt::format("<{0}>{1}</{0}>", tag, escaped(cells[i]))
                        : fmt::format("<{0} class=\"number\">{1}</{0}>", tag,
                                      is_head ? escaped(cells[i]) : unbroken(escaped(cells[i])));
    out_ += "</tr>\n";
  }

  // A number, its unit and its interval stay on one line.
  static std::string unbroken(std::string text) {
    constexpr std::size_t kSentence = 24;  // longer ones are words
    if (text.size() > kSentence) return text;
    for (std::size_t at = 0; (at = text.find(' ', at)) != std::string::npos;) text.replace(at, 1, "&nbsp;");
    return text;
  }

  void claim() {
    out_ += "<h1>" + escaped(source_.judgement.claim.sentence()) + "</h1>\n";
    for (const core::Side side : {core::Side::Baseline, core::Side::Changed}) {
      std::vector<std::string> crossed;
      for (const core::CaseFinding& finding : findings().cases)
        if (finding.holdsOnlyAt() == side) crossed.push_back(finding.title);
      if (!crossed.empty())
        paragraph(fmt::format("The target of {:g} FPS is held at {} only in: {}.", study().target_fps,
                              study().level(side).name, fmt::join(crossed, "; ")));
    }
  }

  void pinned() {
    std::vector<std::string> items;
    for (const auto& [title, remark] : source_.judgement.pins) items.push_back(title + ": " + remark);
    list(items);
  }

  // Causes are no results: they stand apart, each with its grade.
  void explanations() {
    if (source_.judgement.explanations.empty()) return;
    heading("Why, as far as anybody knows");
    std::vector<std::string> items;
    for (const core::Explanation& one : source_.judgement.explanations)
      items.push_back(fmt::format("{}. {}.", one.case_title, one.sentence()));
    list(items);
  }

  void table() {
    heading("Every case");
    out_ += "<table>\n";
    row({"case", study().levels[0].name, study().levels[1].name, "change", "interval", "a frame", "verdict"}, "th");
    for (const core::CaseFinding& finding : findings().cases) {
      if (!finding.effect) {
        row({finding.title, "", "", finding.why_no_effect, "", "", ""});
        continue;
      }
      const core::Effect& effect = *finding.effect;
      const std::string& unit = finding.metric.unit;
      const std::string change = effect.is_log        ? core::percentText(finding.change.value)
                                 : finding.difference ? core::differenceText(finding.difference->value, unit)
                                                      : "";
      row({finding.title, core::valueText(effect.level_baseline, unit), core::valueText(effect.level_changed, unit),
           change, effect.is_log ? core::intervalText(finding.change) : "",
           finding.frame_ms_change ? core::differenceText(*finding.frame_ms_change, "ms") : "",
           effect.is_log || finding.metric.scale == core::Scale::Difference
               ? core::verdictText(finding.verdict, finding.marks)
               : finding.why_no_effect});
    }
    out_ += "</table>\n";
    paragraph(fmt::format("Change and interval are those of the metric itself, at {:g} % confidence; the chart shows "
                          "improvements. Levels are geometric means.",
                          100 * study().intervalConfidence()),
              "soft");
  }

  // What the frames say beside the average, where there are frames: a row for each case, a column for each metric.
  void lows() {
    constexpr std::array kShown{"1 % low, percentile", "1 % low, slowest", "1 % low, time share", "time below",
                                "stutters"};
    std::string table;
    for (const core::CaseFinding& finding : findings().cases) {
      if (finding.secondary.empty()) continue;
      table += "<tr><td>" + escaped(finding.title) + "</td>";
      for (const char* wanted : kShown)
        for (const core::SecondaryMetric& metric : finding.secondary)
          if (metric.name.starts_with(wanted)) table += "<td class=\"number\">" + secondaryCell(metric) + "</td>";
      table += "</tr>\n";
    }
    if (table.empty()) return;
    heading("Lows, time below the target, stutters");
    out_ += "<table>\n";
    row({"case", "1 % low, percentile, FPS", "1 % low, slowest frames, FPS", "1 % low, time share, FPS",
         fmt::format("time below {:g} FPS, %", study().target_fps), "stutters a minute"},
        "th");
    out_ += table + "</table>\n";
    paragraph(
        "Baseline to changed level, then the change with its interval. Three schools of lows, each with its own; a "
        "thin "
        "one rests on fewer than ten frames a pass. None of them carries a verdict.",
        "soft");
  }

  static std::string secondaryCell(const core::SecondaryMetric& metric) {
    const std::string levels =
        fmt::format("{} to {}", core::numberText(metric.baseline, "FPS"), core::numberText(metric.changed, "FPS"));
    const std::string change = metric.change ? core::percentText(metric.change->value)
                                             : core::differenceText(metric.changed - metric.baseline, "");
    std::string cell = unbroken(levels) + "<br>" + unbroken(change);
    if (metric.change && metric.change->interval) cell += "<br>(" + unbroken(core::intervalText(*metric.change)) + ")";
    return cell + (metric.isThin() ? " thin" : "");
  }

  void presets() {
    const auto all = core::presetsHeld(study(), findings());
    if (all.empty()) return;
    heading(fmt::format("The costliest preset that holds {:g} FPS", study().target_fps));
    out_ += "<table>\n";
    row({"workload", "by", study().levels[0].name, study().levels[1].name}, "th", 4);
    const auto name = [&](const std::optional<std::size_t>& of_case) {
      return of_case ? study().cases[*of_case].preset : "none";
    };
    for (const core::PresetsHeld& held : all) {
      row({held.workload, "its average", name(held.by_average[0]), name(held.by_average[1])}, "td", 4);
      if (!held.low.empty()) row({held.workload, held.low, name(held.with_low[0]), name(held.with_low[1])}, "td", 4);
    }
    out_ += "</table>\n";
  }

  static std::string notCounted(const core::CaseFinding& finding) {
    std::vector<std::string> left_out;
    for (const core::LeftOut& one : finding.left_out) left_out.push_back(fmt::format("{} ({})", one.pass_id, one.why));
    return left_out.empty() ? "" : fmt::format("; not counted: {}", fmt::join(left_out, ", "));
  }

  void readings() {
    if (!findings().suite || !findings().readings) return;
    const core::SuiteFinding& suite = *findings().suite;
    const core::SuiteReadings& read = *findings().readings;
    heading("The suite");
    out_ += "<table>\n";
    row({"read as", "cases", "improvement", "verdict"}, "th");
    const auto add = [&](const std::string& name, int cases, const core::PercentChange& change,
                         const std::string& verdict) {
      row({name, std::to_string(cases), core::changeText(change), verdict});
    };
    const auto cases = static_cast<int>(study().cases.size());
    add("this suite", cases, suite.improvement, core::verdictText(suite.verdict, suite.marks));
    add("cases like these", cases, suite.cases_like_these, "");
    const auto addAll = [&](const std::vector<core::SuiteReading>& all) {
      for (const core::SuiteReading& one : all)
        add(one.name, one.cases, one.improvement, core::verdictName(one.verdict));
    };
    addAll(read.presets);
    if (read.trend)
      add(read.trend->name, read.trend->cases, read.trend->improvement, core::verdictName(read.trend->verdict));
    addAll(read.workloads);
    addAll(read.kinds);
    if (read.without_bound_elsewhere)
      add(read.without_bound_elsewhere->name, read.without_bound_elsewhere->cases,
          read.without_bound_elsewhere->improvement, core::verdictName(read.without_bound_elsewhere->verdict));
    addAll(read.without_one);
    out_ += "</table>\n";
    list({fmt::format("Worst case: {}. {}", study().cases[read.worst_case].title(),
                      read.has_no_loss_anywhere ? "No loss that matters anywhere."
                                                : "A loss that matters is not ruled out everywhere."),
          fmt::format("{} of {} cases improved (sign test {}; cases share their flips, so they are not independent).",
                      read.better, read.moved, core::pText(read.sign_p)),
          fmt::format("Arithmetic mean of the percentages, for comparison with published work only: {}.",
                      core::percentText(suite.summary.arithmetic_mean_percent))});
  }

  [[nodiscard]] std::string designText() const {
    const core::Plan& plan = study().plan;
    switch (plan.order) {
      case core::Order::Blocked:
        return fmt::format("{} passes at each level, one level after the other", plan.passes_per_level);
      case core::Order::ThereAndBack:
        return fmt::format("there and back, {} passes at each level in two visits", plan.passes_per_level);
      case core::Order::BalancedShuffle:
        return fmt::format("{} rounds in a drawn, balanced order, {} passes a visit", plan.rounds,
                           plan.passes_per_visit);
    }
    return {};
  }

  void method() {
    heading("How it was measured");
    std::vector<std::string> items{
        designText() + fmt::format(", {} warm-ups a visit that never count.", study().plan.warm_ups),
        fmt::format("A change matters from {:g} %{}. Yardstick: {}.", study().notice_threshold_percent,
                    source_.record.judging_changes.empty() ? ", set before the first pass" : "",
                    core::yardstickName(study().yardstick)),
        fmt::format("School: {}.", core::schoolName(study().school)),
        "The unit of all inference is the pass, not the frame; effects are ratios of geometric means; an interval "
        "inside the shaded "
        "zone is two one-sided tests at half the usual error."};
    if (!findings().null_study_date.empty())
      items.push_back("What a flip adds is taken from the null study of " + findings().null_study_date + ".");
    if (!study().plan.looks.empty()) items.emplace_back("Looks were planned; every interval is wider for them.");
    if (study().plan.extension_rounds > 0)
      items.push_back(
          fmt::format("Extended once by {} rounds, sized from the spread alone.", study().plan.extension_rounds));
    list(items);
  }

  void bench() {
    heading("The bench at both levels");
    const core::BenchProof& proof = source_.judgement.proof;
    if (!proof.levels) return paragraph("It was not captured: that the variable moved rests on a person's word.");
    paragraph(proof.verdict == core::ProofVerdict::MovedAsDeclared
                  ? "The variable moved as declared, and nothing else did."
                  : "Proof: " + std::string(core::proofVerdictName(proof.verdict)) +
                        (proof.reason.empty() ? "." : ": " + proof.reason + "."));
    if (proof.measured) paragraph(proof.measured->sentence() + ".");
    list(core::differenceSentences(proof.levels->meant));
    const core::Capture* baseline = core::bestCaptureOf(proof.baseline_visit, source_.record.captures);
    const core::Capture* changed = core::bestCaptureOf(proof.changed_visit, source_.record.captures);
    if (!baseline || !changed) return;
    out_ += "<table>\n";
    row({"fact", study().levels[0].name, study().levels[1].name}, "th", 3);
    for (const core::Fact& fact : baseline->facts) {
      const bool is_wanted = fact.isRead() && !fact.value.empty() &&
                             std::any_of(kBenchFacts.begin(), kBenchFacts.end(),
                                         [&](const char* pattern) { return core::matchesPattern(pattern, fact.name); });
      const core::Fact* other = changed->find(fact.name);
      if (is_wanted) row({fact.name, fact.shown(), other ? other->shown() : "not there"}, "td", 3);
    }
    out_ += "</table>\n";
  }

  void doubts() {
    heading("What could make it wrong");
    std::vector<std::string> open;
    std::vector<std::string> accepted;
    for (const core::Doubt& doubt : source_.judgement.doubts) {
      if (doubt.accepted_because)
        accepted.push_back(fmt::format("{}. Accepted: {}", doubt.sentence, *doubt.accepted_because));
      else
        open.push_back(fmt::format("{}: {}. {}.", core::doubtRankName(doubt.rank), doubt.sentence, doubt.remedy));
    }
    if (open.empty()) paragraph("No open doubt.");
    list(open);
    list(accepted);
  }

  void disclosure() {
    heading("What went in");
    std::vector<std::string> items{fmt::format(
        "{} of {} planned passes, {} failed, {} left out by a person, {} not comparable.", findings().recorded_passes,
        findings().planned_passes, findings().failed_passes, findings().excluded_passes, findings().retired_passes)};
    for (const core::Pass& pass : source_.record.passes)
      if (!pass.excluded_because.empty())
        items.push_back(fmt::format("Pass {} left out: {}.", pass.id, pass.excluded_because));
    for (const core::Skipped& one : source_.record.skipped) items.push_back("A pass was skipped: " + one.reason + ".");
    for (const std::string& change : source_.record.plan_changes)
      items.push_back("The plan was changed: " + change + ".");
    for (const core::JudgingChange& change : source_.record.judging_changes)
      items.push_back(fmt::format("How results are judged was changed {} they could be seen: {}.",
                                  change.was_seen ? "after" : "before", change.what));
    for (const core::CaseFinding& finding : findings().cases)
      items.push_back(fmt::format("{} rests on passes {}{}.", finding.title, fmt::join(finding.counted, ", "),
                                  notCounted(finding)));
    for (const core::Prediction& one : source_.judgement.predictions)
      items.push_back(fmt::format("{} expected {}.", one.person, core::percentText(one.percent)));
    for (const core::Case& a_case : study().cases) {
      for (const core::DeclaredFact& fact : core::kDeclaredFacts)
        if (const std::string said = a_case.declaredFact(fact.key); !said.empty())
          items.push_back(fmt::format("{}: {} {}.", a_case.title(), fact.title, said));
      if (a_case.is_played) items.push_back(fmt::format("{} is played by hand: {}.", a_case.title(), a_case.route));
    }
    items.push_back(fmt::format("Iron Lever {}, page made on {}.", source_.program_version, source_.made_on));
    list(items);
  }

  void whatItIsNot() {
    heading("What this is not");
    list(
        {"Not a statement about other machines, other drivers or other versions of these workloads: it was measured on "
         "this bench.",
         "Not a statement about cases that were not run; “cases like these” is as good as these are a fair sample of "
         "them.",
         "Not a promise that anybody feels it: read the milliseconds beside the percent."});
  }

  const Source& source_;
  const Palette& palette_;
  std::string out_;
};

}  // namespace

std::string escaped(std::string_view text) {
  std::string safe;
  for (const char c : text) {
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

core::Result<std::string> htmlPage(const Source& source, const Palette& palette, const std::string& chart) {
  if (source.judgement.is_sealed || !source.judgement.findings.is_plan_complete)
    return core::Error{core::ErrorKind::NotAllowed, "the plan is not complete: a verdict so far enters no report",
                       "report", "Finish the plan, or stop at a planned look"};
  return Page(source, palette).made(chart);
}

}  // namespace report
