#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/commands/named_level.h"
#include "core/estimate/wording.h"
#include "core/findings/contrast_rows.h"
#include "core/findings/result_row.h"
#include "core/findings/rounds_left_out.h"
#include "core/judgement/judgement.h"
#include "report/json/findings_json.h"
#include "store/json/json_text.h"
#include "store/study/study_file.h"

namespace cli {
namespace {

std::string caseLine(const core::Study& study, const core::CaseFinding& finding) {
  const std::string title = core::listedTitle(study, finding);
  if (finding.difference)
    return fmt::format("  {}: {} {}: {}\n", title, finding.metric.name,
                       core::unitChangeText(*finding.difference, finding.metric.unit), core::verdictText(finding));
  if (!finding.effect) return fmt::format("  {}: {}\n", title, finding.why_no_effect);
  std::string line =
      fmt::format("  {}: {} {}, improvement {}: {}", title, finding.metric.name, core::changeText(finding.change),
                  core::changeText(finding.improvement), core::verdictText(finding));
  if (finding.frame_ms_change)
    line += fmt::format(" ({} per frame)", core::differenceText(*finding.frame_ms_change, "ms"));
  if (const std::string rounds = core::roundsLeftOutText(finding); !rounds.empty()) line += "\n    " + rounds;
  return line + "\n";
}

// What stands beside a case's verdict and carries none: what bounded it, what its frames say.
std::string besideText(const core::CaseFinding& finding, const core::Study& pair) {
  using core::ConfigurationId;
  std::string text;
  if (finding.bound[0].bound != core::Bound::NotKnown || finding.bound[1].bound != core::Bound::NotKnown)
    text += fmt::format("    bounded by: {} at {}, {} at {}\n", core::boundText(finding.bound[0]),
                        pair.nameOf(ConfigurationId::Baseline), core::boundText(finding.bound[1]),
                        pair.nameOf(ConfigurationId::Changed));
  for (const core::SecondaryMetric& metric : finding.secondary)
    text += fmt::format("    {}: {} to {}{}{}\n", metric.name, core::numberText(metric.baseline, "FPS"),
                        core::numberText(metric.changed, "FPS") + (metric.unit.empty() ? "" : " " + metric.unit),
                        metric.change ? ", " + core::changeText(*metric.change) : "",
                        metric.isThin() ? ", of fewer than 10 frames" : "");
  return text;
}

// What the passes of a case say beside its headline.
std::string furtherLines(const core::Study& study, const core::Judgement& judged, std::size_t case_index) {
  std::string text;
  for (const core::FurtherFinding* one : core::furtherOf(judged.further, case_index))
    text += fmt::format("    {}\n", core::furtherText(*one, study));
  return text;
}

// What people expected, and what they hold to be the cause.
void printPeople(const core::Judgement& judged, std::ostream& out) {
  for (const core::Prediction& one : judged.predictions)
    out << fmt::format("Predicted by {}: {}\n", one.person, core::percentText(one.percent));
  for (const core::Explanation& one : judged.explanations)
    out << fmt::format("{}. {}.\n", one.case_title, one.sentence(one.person));
}

// Of a ladder, a crossing or a chain: first the suite, or the only case, then case by case.
void printShape(const core::Study& study, const core::ShapeFindings& findings, std::ostream& out) {
  std::vector<std::optional<std::size_t>> all;
  if (!findings.headlineCase()) all.push_back(std::nullopt);
  for (std::size_t i = 0; i < study.cases.size(); ++i) all.emplace_back(i);
  for (const auto& of : all) {
    out << (of ? study.cases[*of].title() : fmt::format("All {} cases", findings.suite_cases.size()))
        << ", improvement\n";
    if (const std::string enough = core::enoughText(study, findings, of); !enough.empty())
      out << "  " << enough << ".\n";
    if (const core::LadderFinding* ladder = findings.ladderOf(of)) {
      if (const std::string ceiling = core::ceilingText(study, *ladder); !ceiling.empty())
        out << "  " << ceiling << ".\n";
      for (const core::Foretold& one : ladder->foretold)
        out << "  " << core::foretoldText(study, *ladder, one) << ".\n";
    }
    for (const core::ContrastSection& section : core::contrastSections(study, findings, of)) {
      out << "  " << section.heading << '\n';
      for (const core::ContrastRow& row : section.rows)
        out << "    " << row.title << ": " << row.change << (row.change.empty() ? "" : ": ") << row.verdict
            << (row.remark.empty() ? "" : " (" + row.remark + ")") << '\n';
    }
  }
  for (const core::MissingResult& one : findings.missing)
    out << "  Without a result: " << (one.case_index ? study.cases[*one.case_index].title() + " at " : "") << one.name
        << ", " << one.reason << '\n';
}

// Of more than two configurations: between the two that the claim is about.
void printFurther(const core::Study& study, const core::Judgement& judged, std::ostream& out) {
  if (judged.further.empty()) return;
  out << fmt::format("\nResults beside the headline, {} against {}\n", study.nameOf(judged.pair.to),
                     study.nameOf(judged.pair.from));
  for (std::size_t i = 0; i < study.cases.size(); ++i)
    if (const std::string lines = furtherLines(study, judged, i); !lines.empty())
      out << "  " << study.cases[i].title() << '\n' << lines;
}

void printPossible(const core::Study& study, const core::Judgement& judged, std::ostream& out) {
  if (!judged.possible.empty()) out << "\nWhat each level makes possible\n";
  for (const core::PossibleAt& one : judged.possible)
    out << fmt::format("  {} at {}: {}\n", study.cases[one.case_index].title(), study.nameOf(one.configuration),
                       core::possibleText(one));
}

void printCompanions(const core::Study& study, const core::Judgement& judged, std::ostream& out) {
  if (!judged.companions.empty()) out << "\nBeside a companion\n";
  for (const core::CompanionFinding& one : judged.companions)
    out << "  " << core::companionText(one, study, judged.pair) << ".\n";
}

// Of a suite whose cases name several: nobody gains from an average.
void printAudiences(const core::Findings& findings, std::ostream& out) {
  if (!findings.readings || findings.readings->audiences.empty()) return;
  out << "\nWho gains, who loses\n";
  for (const core::SuiteReading& one : findings.readings->audiences)
    out << fmt::format("  {}: {}: {}\n", one.name, core::changeText(one.improvement), core::verdictName(one.verdict));
}

void printUsed(const core::Study& study, const core::Findings& findings, const std::vector<core::Used>& used,
               std::ostream& out) {
  if (used.empty()) return;
  out << "\nWhat the levels used, " << study.nameOf(used.front().pair.to) << " against "
      << study.nameOf(used.front().pair.from) << ": " << core::usedSummary(used) << '\n';
  for (const std::string& one : core::usedSentences(used, study, findings)) out << "  " << one << ".\n";
}

void printForReading(const core::Study& study, const core::Record& record, const core::Judgement& judged, bool is_short,
                     std::ostream& out) {
  out << judged.claim.sentence() << ".\n";
  if (!judged.claim.safety.empty()) out << judged.claim.safety << ".\n";
  for (const core::Value& one : judged.value) out << core::valueText(one, study) << ".\n";
  out << '\n';
  if (!judged.is_sealed && study.shape != core::Shape::Pair)
    printShape(study, judged.shape, out);
  else if (!judged.is_sealed)
    for (const core::CaseFinding& finding : judged.findings.cases)
      out << caseLine(study, finding) << furtherLines(study, judged, finding.case_index)
          << (is_short ? "" : besideText(finding, judged.pair_study));
  if (!judged.is_sealed && study.shape != core::Shape::Pair) printFurther(study, judged, out);
  if (is_short) return;
  if (!judged.is_sealed) printAudiences(judged.findings, out);
  printCompanions(study, judged, out);
  printPossible(study, judged, out);
  printUsed(study, judged.findings, core::usedOf(study, record, judged), out);
  if (const std::string unread = core::unreadText(core::unreadOf(record)); !unread.empty())
    out << "  " << unread << ".\n";
  if (!judged.is_sealed) printPeople(judged, out);
  out << "\nDoubts, worst first:\n";
  for (const core::Doubt& doubt : judged.doubts)
    out << "  " << core::doubtRankName(doubt.rank) << ": " << doubt.sentence << ". "
        << (doubt.accepted_because ? "Accepted: " + *doubt.accepted_because : doubt.remedy) << ". [" << doubt.id
        << "]\n";
  if (judged.doubts.empty()) out << "  none\n";
}

// Two configurations that somebody chose. A stop, or the seal, stands before them as before anything else.
void printPair(const core::Study& study, const core::Judgement& judged, std::ostream& out) {
  const core::Claim of_pair = core::claimOf(judged.pair_study, judged.findings);
  const bool is_asked = judged.isPairAsked();
  if (judged.is_sealed)
    out << judged.claim.outcome << ".\n";
  else
    out << of_pair.sentence() << (is_asked ? "" : ", chosen afterwards") << ".\n\n";
  if (!judged.is_sealed)
    for (const core::CaseFinding& finding : judged.findings.cases)
      out << caseLine(study, finding) << furtherLines(study, judged, finding.case_index);
  if (!is_asked) out << core::chosenAfterwardsText() << ".\n";
}

}  // namespace

core::Status findingsCommand(const FindingsOptions& options, std::ostream& out) {
  if (!options.open_because.empty())
    if (auto opened = openEarlyCommand(options.study_path, options.open_because); !opened) return opened;
  auto file = store::StudyFile::open(options.study_path);
  if (!file) return file.error();
  const auto recorded = file->recorded();
  if (!recorded) return recorded.error();
  const core::Record record = store::recordOf(*recorded);
  const core::Study& study = file->study();
  std::optional<core::PairOf> pair;
  if (!options.between.empty()) {
    const auto from = namedLevel(study, options.between, "--between");
    if (!from) return from.error();
    const auto to = namedLevel(study, options.and_level, "--and");
    if (!to) return to.error();
    if (*from == *to)
      return core::Error{core::ErrorKind::OutOfRange, "a configuration is not compared with itself", "--and",
                         "Name another one"};
    pair = core::PairOf{*from, *to};
  }
  const core::Judgement judged = core::judgementOf(study, record, core::proveSteps(study, record), pair);
  if (options.as_json)
    out << store::jsonText(report::findingsJson(study, record, judged), 2) << '\n';
  else if (pair)
    printPair(study, judged, out);
  else
    printForReading(study, record, judged, options.is_short, out);
  return core::Done{};
}

}  // namespace cli
