#include "app/model/study_model.h"

#include "session/demo_study.h"
#include "session/person.h"

namespace app {

StudyModel::StudyModel(bench::BenchConnection& bench, session::Approvals approvals)
    : bench_(bench), approvals_(std::move(approvals)) {}

bool StudyModel::canEditQuestion() const { return hasStudy() && whyLocked().isEmpty(); }

QString StudyModel::whyLocked() const {
  if (!hasStudy()) return tr("No study is open.");
  if (session_->isRunning()) return tr("Locked while passes run.");
  if (!session_->recorded().passes.empty())
    return tr(
        "Locked since the first pass: a question changed afterwards would fit its answer. Study > New from this one "
        "asks another.");
  return {};
}

void StudyModel::openStudy(const QString& path) {
  auto file = store::StudyFile::open(path.toStdString());
  if (!file) return report(file.error());
  show(std::make_unique<session::Session>(*std::move(file), bench_, approvals_, session::personAtThisMachine()));
}

void StudyModel::newStudy(const QString& path, bool copies_current) {
  core::Study study;
  if (copies_current && hasStudy()) study = this->study();
  auto file = store::StudyFile::create(path.toStdString(), study);
  if (!file) return report(file.error());
  show(std::make_unique<session::Session>(*std::move(file), bench_, approvals_, session::personAtThisMachine()));
}

void StudyModel::openDemo(const QString& folder) {
  auto session = session::openDemo(folder.toStdString(), bench_);
  if (!session) return report(session.error());
  show(*std::move(session));
  if (session_->nextSlot()) start();
}

void StudyModel::show(std::unique_ptr<session::Session> session) {
  session_ = std::move(session);
  proved_captures_.reset();
  connect(session_.get(), &session::Session::stateChanged, this, &StudyModel::update);
  connect(session_.get(), &session::Session::passFiled, this, &StudyModel::update);
  update();
  Q_EMIT studyOpened();
}

void StudyModel::update() {
  const store::Recorded& recorded = session_->recorded();
  // Captures come a few times a visit, passes all the time: the proof is worked out anew only when it can have changed.
  const bool is_proof_current = proved_captures_ == recorded.captures.size() && proved_study_ == study();
  if (!is_proof_current) judged_.proof = core::proveBench(study(), recorded.visits, recorded.captures);
  proved_captures_ = recorded.captures.size();
  proved_study_ = study();
  judged_ = core::judgementOf(study(), recorded.visits, recorded.passes, std::move(judged_.proof),
                              store::acceptancesOf(recorded));
  problems_ = core::problemsOf(study());
  Q_EMIT changed();
}

void StudyModel::report(const core::Status& status) {
  if (!status) Q_EMIT failed(toQt(status.error().sentence()));
}

void StudyModel::replaceStudy(const core::Study& study) {
  if (hasStudy() && !(study == this->study())) report(session_->replaceStudy(study));
}

void StudyModel::approveCommands() {
  if (hasStudy()) report(session_->approve());
}

void StudyModel::start() {
  if (hasStudy()) report(session_->start());
}

void StudyModel::stopAfterPass() {
  if (hasStudy()) session_->stopAfterPass();
}

void StudyModel::stopNow() {
  if (hasStudy()) session_->stopNow();
}

void StudyModel::repeatFailed() {
  if (hasStudy()) report(session_->repeatFailed());
}

void StudyModel::addNote(const QString& text) {
  if (hasStudy()) report(session_->addNote(text.toStdString()));
}

void StudyModel::acceptDoubt(const QString& doubt_id, const QString& reason) {
  if (hasStudy()) report(session_->acceptDoubt(doubt_id.toStdString(), reason.toStdString()));
}

}  // namespace app
