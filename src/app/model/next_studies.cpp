#include "app/model/next_studies.h"

#include "app/model/qt_text.h"
#include "core/findings/derived_studies.h"
#include "session/study/planning_basis.h"
#include "session/user/study_names.h"

namespace app {

QString newStudyPath(const StudyModel& model) { return toQt(session::newStudyPath(model.files().studies)); }

core::Study emptyQuestion() {
  core::Study study;
  study.bench = tr("this machine").toStdString();
  study.plan.order = core::Order::BalancedShuffle;
  return study;
}

std::optional<core::Study> withLowerLevel(const StudyModel& model) {
  const auto& missed = model.judgement().unreachable;
  return missed.empty() ? std::nullopt : core::withLowerLevel(model.study(), missed.back());
}

std::optional<core::Study> furtherDown(const StudyModel& model) {
  if (!model.hasStudy() || model.judgement().is_sealed || !model.judgement().findings.done.is_first_done)
    return std::nullopt;
  return core::askedFurtherDown(model.study());
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
