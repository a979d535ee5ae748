#include "report/used_part.h"

#include <fmt/format.h>

#include "core/estimate/wording.h"
#include "core/findings/used.h"
#include "core/study/at_configuration.h"

namespace report {

void writeUsed(Html& page, const Source& source) {
  const std::vector<core::Used> used = core::usedOf(source.study, source.record, source.judgement);
  if (used.empty()) return;
  const core::Study& study = source.study;
  const auto medianAt = [](const core::Used& one, core::ConfigurationId configuration) {
    const core::UsedLevel* level = core::atConfiguration(one.at, configuration);
    return level ? core::valueText(level->median, one.unit) : std::string("not read");
  };
  page.heading("What each level used");
  std::vector<const core::Used*> moved;
  for (const core::Used& one : used)
    if (!one.moved.empty()) moved.push_back(&one);
  const auto& pair = source.judgement.pair;
  page.paragraph(fmt::format("Sampled while the passes ran; {} against {}. {}", study.nameOf(pair.to),
                             study.nameOf(pair.from), core::usedSummary(used)));
  std::vector<std::string> said = core::usedSentences(used, study, source.judgement.findings);
  for (std::string& one : said) one += '.';
  page.list(said);
  if (const std::string unread = core::unreadText(core::unreadOf(source.record)); !unread.empty())
    page.paragraph(unread + ".", "soft");
  if (moved.empty()) return;
  page.raw("<table>\n");
  page.row({"case", "channel", study.nameOf(pair.from), study.nameOf(pair.to), "change"}, "th", 2);
  for (const core::Used* one : moved)
    page.row({study.cases[one->case_index].title(), one->channel, medianAt(*one, pair.from), medianAt(*one, pair.to),
              core::usedChangeText(*one)},
             "td", 2);
  page.raw("</table>\n");
  page.paragraph(
      "Each number is the middle of the passes': of a pass the median, of a counter what it counted, of energy what "
      "follows from the mean power. No verdict goes with it: more power is neither gain nor loss.",
      "soft");
}

}  // namespace report
