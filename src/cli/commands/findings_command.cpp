#include <fmt/format.h>

#include "cli/commands.h"
#include "cli/json/findings_json.h"
#include "core/estimate/wording.h"
#include "core/judgement/judgement.h"
#include "store/json/json_text.h"
#include "store/study/study_file.h"

namespace cli {
namespace {

std::string caseLine(const core::CaseFinding& finding) {
  if (finding.difference)
    return fmt::format(
        "  {}: {} {}: {}\n", finding.title, finding.metric.name,
        core::unitChangeText(*finding.difference, finding.metric.unit),
        finding.why_no_effect.empty() ? core::verdictText(finding.verdict, finding.marks) : finding.why_no_effect);
  if (!finding.effect) return fmt::format("  {}: {}\n", finding.title, finding.why_no_effect);
  std::string line = fmt::format("  {}: {} {}, improvement {}: {}", finding.title, finding.metric.name,
                                 core::changeText(finding.change), core::changeText(finding.improvement),
                                 core::verdictText(finding.verdict, finding.marks));
  if (finding.frame_ms_change)
    line += fmt::format(" ({} per frame)", core::differenceText(*finding.frame_ms_change, "ms"));
  return line + "\n";
}

void printForReading(const core::Judgement& judged, std::ostream& out) {
  out << judged.claim.sentence() << ".\n";
  if (!judged.claim.safety.empty()) out << judged.claim.safety << ".\n";
  out << '\n';
  if (!judged.is_sealed)
    for (const core::CaseFinding& finding : judged.findings.cases) out << caseLine(finding);
  out << "\nDoubts, worst first:\n";
  for (const core::Doubt& doubt : judged.doubts)
    out << "  " << core::doubtRankName(doubt.rank) << ": " << doubt.sentence << ". "
        << (doubt.accepted_because ? "Accepted: " + *doubt.accepted_because : doubt.remedy) << ". [" << doubt.id
        << "]\n";
  if (judged.doubts.empty()) out << "  none\n";
}

}  // namespace

core::Status findingsCommand(const std::string& study_path, bool as_json, const std::string& open_because,
                             std::ostream& out) {
  if (!open_because.empty())
    if (auto opened = openEarlyCommand(study_path, open_because); !opened) return opened;
  auto file = store::StudyFile::open(study_path);
  if (!file) return file.error();
  const auto recorded = file->recorded();
  if (!recorded) return recorded.error();
  const core::Judgement judged = core::judgementOf(file->study(), store::recordOf(*recorded));
  if (as_json)
    out << store::jsonText(findingsJson(file->study(), judged), 2) << '\n';
  else
    printForReading(judged, out);
  return core::Done{};
}

}  // namespace cli
