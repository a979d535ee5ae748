#include "app/model/next_studies.h"

#include "app/model/qt_text.h"
#include "core/findings/derived_studies.h"
#include "session/planning_basis.h"
#include "session/study_names.h"

namespace app {

QString newStudyPath(const StudyModel& model) { return toQt(session::newStudyPath(model.files().studies)); }

core::Study emptyQuestion() {
  core::Study study;
  study.bench = tr("this machine").toStdString();
  study.plan.order = core::Order::BalancedShuffle;
  return study;
}

QString nextLowerLevel(const core::Study& study, const core::Judgement& judgement) {
  if (judgement.unreachable.empty() || study.shape != core::Shape::Pair) return {};
  const core::Side missed = judgement.unreachable.back().side;
  const auto lower = core::nextLowerLevel(study.variable().kind, study.nameOf(missed));
  const std::string other = study.nameOf(missed == core::Side::Baseline ? core::Side::Changed : core::Side::Baseline);
  return lower && *lower != other ? toQt(*lower) : QString();
}

std::optional<core::Study> withLowerLevel(const StudyModel& model) {
  if (!model.hasStudy()) return std::nullopt;
  const QString lower = nextLowerLevel(model.study(), model.judgement());
  if (lower.isEmpty()) return std::nullopt;
  core::Study study = model.study();
  core::Level& level = study.variable().levels[core::placeOf(model.judgement().unreachable.back().side)];
  level.name = lower.toStdString();
  level.set_command.clear();
  level.writes.clear();
  level.menu_path.clear();
  return study;
}

core::Study nullStudyFor(const StudyModel& model) {
  const core::Study& study = model.study();
  const auto basis = session::planningBasis(study, model.benches(), model.session().machine().registeredName());
  return core::nullStudyOf(study, session::currentPlan(study.plan, basis.planning).null_visits);
}

void confirm(StudyModel& model, const QString& path, std::size_t case_index) {
  if (!model.hasStudy() || case_index >= model.study().cases.size()) return;
  const core::Judgement& judged = model.judgement();
  const core::Study again = core::confirmationOf(model.study(), judged.findings, case_index, judged.pair);
  const QString note = tr("A confirmation of %1 begins: %2").arg(toQt(again.cases.front().title()), path);
  model.act([&](session::Session& s) { return s.decisions().addNote(note.toStdString()); });
  model.create(path, again);
}

}  // namespace app
