#include "report/further_part.h"

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/further_results.h"
#include "core/study/at_configuration.h"

namespace report {

void writePossible(Html& page, const Source& source) {
  const core::Study& study = source.study;
  if (source.judgement.possible.empty()) return;
  page.heading("What each level makes possible");
  page.raw("<table>\n");
  page.row({"case", "level", "answer"}, "th", 3);
  for (const core::PossibleAt& one : source.judgement.possible)
    page.row({study.cases[one.case_index].title(), study.nameOf(one.configuration), core::possibleText(one)}, "td", 3);
  page.raw("</table>\n");
}

void writeCompanions(Html& page, const Source& source) {
  const core::Judgement& judgement = source.judgement;
  if (judgement.companions.empty()) return;
  page.heading("Beside a companion");
  std::vector<std::string> sentences;
  for (const core::CompanionFinding& one : judgement.companions)
    sentences.push_back(core::companionText(one, source.study, judgement.pair) + ".");
  page.list(sentences);
  page.paragraph(
      "Within a visit each pass beside the companion is held against one alone. What the change does beside it is "
      "judged among all such cases.",
      "soft");
}

void writeFurther(Html& page, const Source& source) {
  const core::Judgement& judgement = source.judgement;
  if (judgement.further.empty()) return;
  const core::Study& study = source.study;
  const auto& pair = judgement.pair;
  page.heading("Results beside the headline");
  page.raw("<table>\n");
  page.row({"case", "result", study.nameOf(pair.from), study.nameOf(pair.to), "improvement, or change in the unit",
            "verdict"},
           "th", 2);
  for (const core::FurtherFinding& one : judgement.further) {
    const core::Case& a_case = study.cases[one.case_index];
    const core::CaseResult& result = a_case.further[one.place];
    const auto valueAt = [&](core::ConfigurationId configuration) {
      const core::ResultAt* at = core::atConfiguration(one.at, configuration);
      return at ? core::valueText(at->mean, result.metric.unit) : std::string("none");
    };
    page.row({a_case.title(), result.name + (result.is_control ? ", should not respond" : ""), valueAt(pair.from),
              valueAt(pair.to), one.changeText(result.metric.unit),
              one.isTold() ? core::verdictText(one.verdict, one.threshold, one.marks) : "not measured at both levels"},
             "td", 2);
  }
  page.raw("</table>\n");
  page.paragraph(
      "Each result is judged like a headline, among the cases that have one of its name; none of them is part of a "
      "suite. Where one is a difference in its unit, the column tells how the result itself changed.",
      "soft");
}

}  // namespace report
