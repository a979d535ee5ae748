#include "app/model/evidence_parts.h"

#include <algorithm>

#include "app/model/qt_text.h"
#include "core/estimate/wording.h"
#include "core/findings/further_results.h"
#include "core/findings/used.h"
#include "core/study/at_configuration.h"

namespace app {

std::optional<Evidence::Part> usedPart(const core::Study& study, const core::Judgement& judgement,
                                       std::size_t case_index, const std::vector<core::Used>& used) {
  Evidence::Part part{QStringLiteral("used"), tr("What the levels used"), {}, {}, {}};
  const auto [from, to] = judgement.pair;
  part.table = {{QString(), toQt(study.nameOf(from)), toQt(study.nameOf(to)), tr("change")}, {}, true};
  int moved = 0;
  for (const core::Used& one : used) {
    if (one.case_index != case_index) continue;
    const auto at = [&](core::ConfigurationId configuration) {
      const core::UsedLevel* level = core::atConfiguration(one.at, configuration);
      return level ? toQt(core::numberText(level->median, one.unit)) : tr("–");
    };
    part.table.rows.push_back({toQt(core::usedTitle(one)), at(from), at(to),
                               toQt(core::usedChangeText(one)).replace(QStringLiteral(" ("), QStringLiteral("\n("))});
    if (one.moved.empty()) continue;
    ++moved;
    part.remarks << toQt(one.moved.substr(0, 1)).toUpper() + toQt(one.moved.substr(1)) + QLatin1Char('.');
  }
  if (part.table.rows.empty()) return std::nullopt;
  part.brief = moved == 0 ? tr("nothing surely moved") : tr("%1 of %2 moved").arg(moved).arg(part.table.rows.size());
  return part;
}

std::optional<Evidence::Part> furtherPart(const core::Study& study, const core::Judgement& judgement,
                                          std::size_t case_index) {
  const auto all = core::furtherOf(judgement.further, case_index);
  if (all.empty()) return std::nullopt;
  Evidence::Part part{QStringLiteral("results"), tr("Results beside the headline"), {}, {}, {}};
  const auto [from, to] = judgement.pair;
  part.table = {{QString(), toQt(study.nameOf(from)), toQt(study.nameOf(to)), tr("improvement")}, {}, true};
  const bool are_ratios = std::none_of(all.begin(), all.end(), [](const auto* one) { return one->difference; });
  if (!are_ratios) part.table.columns.last() = tr("improvement, or change in the unit");
  int moved = 0;
  for (const core::FurtherFinding* one : all) {
    const core::CaseResult& result = study.cases[case_index].further[one->place];
    const auto at = [&](core::ConfigurationId configuration) {
      const core::ResultAt* level = core::atConfiguration(one->at, configuration);
      return level ? toQt(core::numberText(level->mean, result.metric.unit)) : tr("–");
    };
    part.table.rows.push_back(
        {toQt(result.name + ", " + result.metric.unit), at(from), at(to),
         toQt(one->changeText(result.metric.unit)).replace(QStringLiteral(" ("), QStringLiteral("\n("))});
    moved += one->doesExcludeZero();
    part.remarks << toQt(core::furtherText(*one, study)) + QLatin1Char('.');
  }
  part.brief = tr("%1 of %2 surely moved").arg(moved).arg(all.size());
  return part;
}

std::optional<Evidence::Part> companionPart(const core::Study& study, const core::Judgement& judgement,
                                            std::size_t case_index) {
  for (const core::CompanionFinding& one : judgement.companions) {
    if (one.case_index != case_index) continue;
    Evidence::Part part{QStringLiteral("companion"), tr("Beside its companion"), {}, {}, {}};
    const std::string& unit = study.cases[case_index].metric.unit;
    const bool is_ratio = study.cases[case_index].metric.scale == core::Scale::Ratio;
    part.table = {{QString(), is_ratio ? tr("improvement against alone") : tr("against alone")}, {}, true};
    for (const core::BesideAt& level : one.at)
      part.table.rows.push_back({toQt(study.nameOf(level.configuration)), toQt(level.changeText(unit))});
    part.remarks << toQt(core::companionText(one, study, judgement.pair)) + QLatin1Char('.');
    switch (one.reading()) {
      case core::BesideReading::More: part.brief = tr("the change comes out better"); break;
      case core::BesideReading::Less: part.brief = tr("the change comes out worse"); break;
      case core::BesideReading::Same: part.brief = tr("the change comes out the same"); break;
      case core::BesideReading::Open: part.brief = tr("not settled"); break;
    }
    return part;
  }
  return std::nullopt;
}

}  // namespace app
