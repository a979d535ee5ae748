#include "report/results_part.h"

#include <algorithm>
#include <array>
#include <span>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/presets_held.h"
#include "core/findings/result_row.h"
#include "core/judgement/claim.h"

namespace report {
namespace {

class Results {
 public:
  Results(Html& page, const Source& source) : page_(page), source_(source) {}

  void write() {
    table();
    presets();
    readings();
    lows();
    longFrames();
  }

 private:
  [[nodiscard]] const core::Study& study() const { return source_.judgement.pair_study; }
  [[nodiscard]] const core::Findings& findings() const { return source_.judgement.findings; }

  void table() {
    page_.heading("Every case");
    page_.raw("<table>\n");
    row({"case", study().nameOf(core::ConfigurationId::Baseline), study().nameOf(core::ConfigurationId::Changed),
         "change", "interval", "per frame", "verdict"},
        "th");
    for (const core::CaseFinding& finding : findings().cases) {
      if (!finding.effect) {
        row({core::listedTitle(study(), finding), "", "", finding.why_no_effect, "", "", ""});
        continue;
      }
      const core::Effect& effect = *finding.effect;
      const std::string& unit = finding.metric.unit;
      const std::string change = effect.is_log        ? core::percentText(finding.change.value)
                                 : finding.difference ? core::differenceText(finding.difference->value, unit)
                                                      : "";
      row({core::listedTitle(study(), finding), core::valueText(effect.level_baseline, unit),
           core::valueText(effect.level_changed, unit), change,
           effect.is_log ? core::intervalText(finding.change) : core::unitIntervalText(*finding.difference),
           finding.frame_ms_change ? core::differenceText(*finding.frame_ms_change, "ms") : "",
           effect.is_log || finding.metric.scale == core::Scale::Difference ? core::verdictText(finding)
                                                                            : finding.why_no_effect});
    }
    page_.raw("</table>\n");
    page_.paragraph(
        fmt::format("Change and interval are those of the metric itself, at {:g} % confidence; the chart shows "
                    "improvements. {}",
                    100 * findings().confidence, meansText()),
        "soft");
  }

  // Where nothing is counted in frames, their column would only take room from the names.
  void row(std::vector<std::string> cells, const char* tag = "td") {
    constexpr std::ptrdiff_t kPerFrame = 5;
    const auto& all = findings().cases;
    if (std::none_of(all.begin(), all.end(),
                     [](const core::CaseFinding& one) { return one.frame_ms_change.has_value(); }))
      cells.erase(cells.begin() + kPerFrame);
    page_.row(cells, tag);
  }

  // Of decibels and degrees a geometric mean says nothing.
  [[nodiscard]] std::string meansText() const {
    const auto is_log = [](const core::CaseFinding& one) { return one.effect && one.effect->is_log; };
    const auto is_plain = [](const core::CaseFinding& one) { return one.effect && !one.effect->is_log; };
    const bool has_log = std::any_of(findings().cases.begin(), findings().cases.end(), is_log);
    const bool has_plain = std::any_of(findings().cases.begin(), findings().cases.end(), is_plain);
    if (has_log && has_plain) return "Values are geometric means; those of differences in a unit are plain means.";
    return has_plain ? "Values are plain means." : "Values are geometric means.";
  }

  void presets() {
    const auto all = core::presetsHeld(study(), findings());
    if (all.empty()) return;
    page_.heading(fmt::format("The costliest preset that reaches {:g} FPS", study().target_fps));
    page_.raw("<table>\n");
    page_.row({"workload", "judged by", study().nameOf(core::ConfigurationId::Baseline),
               study().nameOf(core::ConfigurationId::Changed)},
              "th", 4);
    const auto name = [&](const std::optional<std::size_t>& of_case) {
      return of_case ? study().cases[*of_case].variant() : "none";
    };
    for (const core::PresetsHeld& held : all) {
      page_.row({held.workload, "its average", name(held.by_average[0]), name(held.by_average[1])}, "td", 4);
      if (!held.low.empty())
        page_.row({held.workload, held.low, name(held.with_low[0]), name(held.with_low[1])}, "td", 4);
    }
    page_.raw("</table>\n");
  }

  void readings() {
    if (!findings().suite || !findings().readings) return;
    const core::SuiteFinding& suite = *findings().suite;
    const core::SuiteReadings& read = *findings().readings;
    page_.heading("The suite");
    page_.raw("<table>\n");
    page_.row({"which cases", "cases", "improvement", "verdict"}, "th");
    const auto add = [&](const std::string& name, int cases, const core::PercentChange& change,
                         const std::string& verdict) {
      page_.row({name, std::to_string(cases), core::changeText(change), verdict});
    };
    const auto cases = static_cast<int>(suite.cases.size());
    add("this suite", cases, suite.improvement, core::verdictText(suite));
    add("cases like these", cases, suite.cases_like_these, "");
    if (const auto& next = suite.next_case)
      page_.row({"a next case", "1", core::spanText(next->interval),
                 fmt::format("about {:.0f} of 100 would gain", next->gain_percent)});
    const auto addAll = [&](const std::vector<core::SuiteReading>& all) {
      for (const core::SuiteReading& one : all)
        add(one.name, one.cases, one.improvement, core::verdictName(one.verdict));
    };
    addAll(read.presets);
    addAll(read.workloads);
    addAll(read.kinds);
    addAll(read.audiences);
    if (read.without_bound_elsewhere)
      add(read.without_bound_elsewhere->name, read.without_bound_elsewhere->cases,
          read.without_bound_elsewhere->improvement, core::verdictName(read.without_bound_elsewhere->verdict));
    addAll(read.without_one);
    page_.raw("</table>\n");
    if (read.trend) page_.paragraph(core::trendText(*read.trend) + ".");
    page_.list(
        {fmt::format("Summed up are {}; the lowest is {}.", core::suiteCasesText(study(), suite),
                     study().cases[read.worst_case].title()),
         fmt::format("{} of {} cases improved (sign test {}; cases share their flips, so they are not independent).",
                     read.better, read.moved, core::pText(read.sign_p)),
         fmt::format("Arithmetic mean of the percentages, for comparison with published work only: {}.",
                     core::percentText(suite.summary.arithmetic_mean_percent))});
  }

  // A row for each case with frames, a cell for each metric whose name begins so.
  [[nodiscard]] std::string secondaryRows(std::span<const char* const> shown) const {
    std::string table;
    for (const core::CaseFinding& finding : findings().cases) {
      if (finding.secondary.empty()) continue;
      table += "<tr><td>" + escaped(core::listedTitle(study(), finding)) + "</td>";
      for (const char* wanted : shown)
        for (const core::SecondaryMetric& metric : finding.secondary)
          if (metric.name.starts_with(wanted)) table += "<td class=\"number\">" + secondaryCell(metric) + "</td>";
      table += "</tr>\n";
    }
    return table;
  }

  // What the frames say beside the average, where there are frames: a row for each case, a column for each metric.
  void lows() {
    constexpr std::array kShown{
        "1 % low (percentile)",        "1 % low (mean of slowest)", "1 % low (time share)", "0.1 % low (percentile)",
        "0.1 % low (mean of slowest)", "0.1 % low (time share)",    "time below",           "stutters"};
    const std::string table = secondaryRows(kShown);
    if (table.empty()) return;
    page_.heading("Lows, time below the target, stutters");
    page_.raw("<table>\n");
    page_.row({"case", "1 % low (percentile), FPS", "1 % low (mean of slowest), FPS", "1 % low (time share), FPS",
               "0.1 % low (percentile), FPS", "0.1 % low (mean of slowest), FPS", "0.1 % low (time share), FPS",
               fmt::format("time below {:g} FPS, %", study().target_fps), "stutters a minute"},
              "th");
    page_.raw(table + "</table>\n");
    page_.paragraph(
        "Baseline to changed level, then the change with its interval. Lows are computed in three ways, each with its "
        "own interval; a thin one rests on fewer than ten frames a pass. None of them carries a verdict.",
        "soft");
  }

  // Hitches in milliseconds, whatever the median is.
  void longFrames() {
    constexpr std::array kShown{"frames over 25", "frames over 50", "frames over 100", "longest frame"};
    std::vector<std::string> holding;
    for (const double target : study().targets()) holding.push_back(fmt::format("frames that hold {:g} FPS", target));
    std::vector<const char*> shown(kShown.begin(), kShown.end());
    for (const std::string& name : holding) shown.push_back(name.c_str());
    const std::string table = secondaryRows(shown);
    const bool are_stutters_unlike = std::any_of(findings().cases.begin(), findings().cases.end(),
                                                 [](const core::CaseFinding& one) { return one.areStuttersUnlike(); });
    if (table.empty()) return;
    page_.raw("<table>\n");
    std::vector<std::string> heads{"case", "frames over 25 ms a minute", "over 50 ms", "over 100 ms",
                                   "longest frame, ms"};
    for (const std::string& name : holding) heads.push_back(name + ", %");
    page_.row(heads, "th");
    page_.raw(table + "</table>\n");
    if (are_stutters_unlike)
      page_.paragraph(
          "Where the median frame changed by more than 10 %, stutters are told against another median at each level: "
          "go by these.",
          "soft");
  }

  static std::string secondaryCell(const core::SecondaryMetric& metric) {
    const std::string levels =
        fmt::format("{} to {}", core::numberText(metric.baseline, "FPS"), core::numberText(metric.changed, "FPS"));
    const std::string change = metric.change ? core::percentText(metric.change->value)
                                             : core::differenceText(metric.changed - metric.baseline, "");
    std::string cell = Html::unbroken(levels) + "<br>" + Html::unbroken(change);
    if (metric.change && metric.change->interval)
      cell += "<br>(" + Html::unbroken(core::intervalText(*metric.change)) + ")";
    return cell + (metric.isThin() ? " thin" : "");
  }

  Html& page_;
  const Source& source_;
};

}  // namespace

void writeResults(Html& page, const Source& source) { Results(page, source).write(); }

}  // namespace report
