#include "app/model/desk_carry.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "app/model/qt_text.h"
#include "core/study/judging.h"

namespace app {
namespace {

// One unit is that of all levels: another one would make other numbers of what the others offer.
bool canOffer(const core::Variable& variable, std::size_t level, const std::string& unit) {
  constexpr std::array<std::string_view, 3> kOffered{"GB/s", "W", "GB"};
  if (std::find(kOffered.begin(), kOffered.end(), unit) == kOffered.end()) return false;
  if (variable.resource_unit == unit) return true;
  for (std::size_t i = 0; i < variable.levels.size(); ++i)
    if (i != level && variable.levels[i].resource) return false;
  return true;
}

}  // namespace

std::vector<DeskCarry> carriesOf(const DeskModel& desk, const core::Study& study) {
  using Into = DeskCarry::Into;
  std::vector<DeskCarry> all;
  for (const DeskModel::Answer& one : desk.answers()) {
    if (!one.number) continue;
    const double number = *one.number;
    if (one.unit == "%" && number != 0) {
      all.push_back({Into::Threshold, std::abs(number), one.unit, 0,
                     QObject::tr("threshold: %1 (%2)").arg(one.value, one.title)});
      all.push_back(
          {Into::Expectation, number, one.unit, 0, QObject::tr("what you expect: %1 (%2)").arg(one.value, one.title)});
    }
    for (std::size_t level = 0; level < study.variable().levels.size(); ++level)
      if (number > 0 && canOffer(study.variable(), level, one.unit))
        all.push_back({Into::Resource, number, one.unit, level,
                       QObject::tr("what %1 offers: %2 (%3)")
                           .arg(toQt(study.variable().levels[level].name), one.value, one.title)});
  }
  return all;
}

core::Status carry(session::Session& session, const DeskCarry& what, const std::string& reason) {
  core::Study study = session.study();
  switch (what.into) {
    case DeskCarry::Into::Expectation: return session.decisions().predict(session.open().person(), what.number);
    case DeskCarry::Into::Resource:
      study.variable().levels[what.level].resource = what.number;
      study.variable().resource_unit = what.unit;
      return session.replaceStudy(study);
    case DeskCarry::Into::Threshold: break;
  }
  core::Judging judging = core::judgingOf(study);
  judging.notice_threshold_percent = what.number;
  judging.notice_threshold_ms.reset();  // it would count in place of the percentage
  return session.recorded().passes.empty() ? session.replaceStudy(core::judgedBy(study, judging))
                                           : session.decisions().changeJudging(judging, reason);
}

}  // namespace app
