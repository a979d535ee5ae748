#include "app/model/study_model.h"

#include "session/sheet/demo_study.h"
#include "session/sheet/study_move.h"
#include "session/user/person.h"
#include "session/user/study_names.h"

#include <QFileInfo>
#include <QRandomGenerator>
#include <algorithm>

#include "core/findings/derived_studies.h"
#include "core/values/fault.h"

namespace app {

StudyModel::StudyModel(bench::BenchConnection& bench, session::UserFiles files)
    : bench_(bench), files_(std::move(files)) {}

QString StudyModel::whyLocked() const {
  if (!hasStudy()) return tr("No study is open.");
  if (session_->isRunning()) return tr("Locked while passes run.");
  if (!session_->recorded().passes.empty())
    return tr(
        "Locked since the first pass: a question changed afterwards would fit its answer. Study > Repeat this study "
        "asks again, or another one.");
  return {};
}

void StudyModel::openStudy(const QString& path) {
  auto file = store::StudyFile::open(path.toStdString());
  if (!file) return report(file.error());
  show(std::make_unique<session::Session>(*std::move(file), bench_, files_, session::personAtThisMachine()));
}

void StudyModel::nameByQuestion() {
  if (!hasStudy() || !problems_.empty() || !whyLocked().isEmpty()) return;
  const std::string path = session_->open().path();
  const bool is_named_by_us = path == named_path_ || session::isNamedByNumber(path, files_.studies);
  if (!is_named_by_us || !session_->secondCopy().folder().empty()) return;  // its copies have the name too
  const std::string named = session::pathByQuestion(study(), path);
  if (named == path || !session::moveStudy(*session_, named)) return;  // it may keep its number
  reopen(QString::fromStdString(named));
  named_path_ = named;
}

// The same question: what was changed in this sitting can still be taken back.
void StudyModel::reopen(const QString& path) {
  auto earlier = std::move(earlier_);
  openStudy(path);
  earlier_ = std::move(earlier);
}

void StudyModel::keepElsewhere(const QString& path) {
  if (!hasStudy() || QFileInfo(QString::fromStdString(session_->open().path())) == QFileInfo(path)) return;
  const std::string second_folder = session_->secondCopy().folder();
  if (auto moved = session::moveStudy(*session_, path.toStdString()); !moved) return report(moved);
  reopen(path);
  if (!second_folder.empty()) report(session_->secondCopy().setFolder(second_folder));
}

void StudyModel::create(const QString& path, const core::Study& asked) {
  const int seed = static_cast<int>(QRandomGenerator::global()->bounded(1 << 30));
  auto file = store::StudyFile::create(path.toStdString(), core::startedAnew(asked, seed));
  if (!file) return report(file.error());
  show(std::make_unique<session::Session>(*std::move(file), bench_, files_, session::personAtThisMachine()));
}

void StudyModel::openDemo(const QString& folder, const QString& id) {
  auto session = session::openDemo(folder.toStdString(), bench_, id.toStdString());
  if (!session) return report(session.error());
  show(*std::move(session));
  if (session_->nextSlot()) act(&session::Session::start);
}

// A study that makes something throw is closed again: a window that shows half of it would throw at every picture.
void StudyModel::show(std::unique_ptr<session::Session> session) {
  const std::string path = session->open().path();
  try {
    take(std::move(session));
  } catch (const std::exception& thrown) {
    session_.reset();
    report(core::faultOf(thrown, path));
  }
}

void StudyModel::take(std::unique_ptr<session::Session> session) {
  session_ = std::move(session);
  memory_ = {};
  proved_records_.reset();
  judged_on_.reset();
  chosen_pair_.reset();
  earlier_.clear();  // of another study
  connect(session_.get(), &session::Session::stateChanged, this, &StudyModel::update);
  connect(session_.get(), &session::Session::passFiled, this, &StudyModel::update);
  Q_EMIT studyTaken();
  update();
  Q_EMIT studyOpened();
  if (const QString others = openElsewhere(); !others.isEmpty())
    Q_EMIT informed(tr("This study is open elsewhere too: %1. What is decided there is shown here once you open the "
                       "study again; its passes run in one place at a time.")
                        .arg(others));
}

QString StudyModel::openElsewhere() const {
  QStringList others;
  for (const std::string& other : session_->open().openElsewhere()) others << toQt(other);
  return others.join(QStringLiteral("; "));
}

void StudyModel::setQuiet(bool is_quiet) {
  is_quiet_ = is_quiet;
  if (!is_quiet && std::exchange(is_behind_, false)) update();
}

void StudyModel::update() {
  is_behind_ = is_quiet_;
  if (is_quiet_) return;
  const store::Recorded& recorded = session_->recorded();
  // Captures come a few times a visit, passes all the time: the proof is worked out anew only when it can have changed.
  const auto loaded = std::count_if(recorded.passes.begin(), recorded.passes.end(),
                                    [](const core::Pass& pass) { return !pass.loads.empty(); });
  const std::size_t records =
      recorded.captures.size() + recorded.measurements.size() + static_cast<std::size_t>(loaded);
  const bool is_proof_current = proved_records_ == records && proved_study_ == study();
  const auto acts = std::count_if(recorded.events.begin(), recorded.events.end(), [](const store::Event& event) {
    return !std::holds_alternative<core::NoteMade>(event.act);
  });
  const Basis basis{recorded.visits.size(), recorded.passes.size(), static_cast<std::size_t>(acts), chosen_pair_};
  if (!is_proof_current || judged_on_ != basis) {
    const core::Record record = store::recordOf(recorded);
    if (!is_proof_current) judged_.steps = core::proveSteps(study(), record);
    judged_ = core::judgementOf(study(), record, std::move(judged_.steps), chosen_pair_, &memory_);
  }
  judged_on_ = basis;
  proved_records_ = records;
  proved_study_ = study();
  problems_ = core::problemsOf(study());
  Q_EMIT changed();
}

void StudyModel::showPair(const core::PairOf& pair) {
  if (!hasStudy() || pair == judged_.pair) return;
  chosen_pair_ = pair;
  update();
}

bool StudyModel::act(const std::function<core::Status(session::Session&)>& what) {
  if (!hasStudy()) return false;
  const core::Status done = what(*session_);
  report(done);
  return done.ok();
}

void StudyModel::report(const core::Status& status) {
  if (!status) Q_EMIT failed(toQt(status.error().sentence()));
}

void StudyModel::replaceStudy(const core::Study& study) {
  if (!hasStudy() || study == this->study()) return;
  const core::Study before = this->study();
  const core::Status replaced = session_->replaceStudy(study);
  if (replaced) earlier_.push_back(before);
  report(replaced);
}

void StudyModel::undo() {
  if (!hasStudy()) return;
  if (whyLocked().isEmpty() && !earlier_.empty()) {
    const core::Status replaced = session_->replaceStudy(earlier_.back());
    if (replaced) earlier_.pop_back();
    return report(replaced);
  }
  act([](session::Session& s) { return s.decisions().undo(); });
}

void StudyModel::stopNow() {
  if (hasStudy()) session_->stop(session::Stop::Now);
}

store::BenchRegister StudyModel::benches() const {
  return hasStudy() ? session_->benches() : store::BenchRegister(files_.benches);
}

void StudyModel::putBackLeftOvers() {
  QStringList sentences;
  for (const std::string& sentence : session::putBackLeftOvers(files_, session::personAtThisMachine()))
    sentences << toQt(sentence);
  if (!sentences.isEmpty()) Q_EMIT informed(sentences.join(QLatin1Char('\n')));
}

}  // namespace app
