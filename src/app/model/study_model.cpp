#include "app/model/study_model.h"

#include "session/demo_study.h"
#include "session/person.h"

#include <QRandomGenerator>
#include <algorithm>

#include "core/findings/derived_studies.h"
#include "session/planning_basis.h"

namespace app {

StudyModel::StudyModel(bench::BenchConnection& bench, session::UserFiles files)
    : bench_(bench), files_(std::move(files)) {}

bool StudyModel::canEditQuestion() const { return hasStudy() && whyLocked().isEmpty(); }

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

void StudyModel::newStudy(const QString& path, bool copies_current) {
  core::Study fresh;
  fresh.plan.order = core::Order::BalancedShuffle;
  create(path, copies_current && hasStudy() ? study() : fresh);
}

void StudyModel::newStudyWithLowerLevel(const QString& path) {
  const QString lower = nextLowerLevel();
  if (lower.isEmpty()) return;
  core::Study study = this->study();
  core::Level& level = study.levels[static_cast<std::size_t>(unreachable().back().side)];
  level.name = lower.toStdString();
  level.set_command.clear();
  level.writes.clear();
  level.menu_path.clear();
  create(path, study);
}

void StudyModel::newNullStudy(const QString& path) {
  if (!hasStudy()) return;
  const auto [planning, measured] = session::planningBasis(study(), benches(), session_->registeredName());
  create(path, core::nullStudyOf(study(), session::currentPlan(study().plan, planning).null_visits));
}

void StudyModel::create(const QString& path, const core::Study& asked) {
  const int seed = static_cast<int>(QRandomGenerator::global()->bounded(1 << 30));
  auto file = store::StudyFile::create(path.toStdString(), core::startedAnew(asked, seed));
  if (!file) return report(file.error());
  show(std::make_unique<session::Session>(*std::move(file), bench_, files_, session::personAtThisMachine()));
}

void StudyModel::openDemo(const QString& folder) {
  auto session = session::openDemo(folder.toStdString(), bench_);
  if (!session) return report(session.error());
  show(*std::move(session));
  if (session_->nextSlot()) start();
}

void StudyModel::show(std::unique_ptr<session::Session> session) {
  session_ = std::move(session);
  proved_records_.reset();
  connect(session_.get(), &session::Session::stateChanged, this, &StudyModel::update);
  connect(session_.get(), &session::Session::passFiled, this, &StudyModel::update);
  update();
  Q_EMIT studyOpened();
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
  const core::Record record = store::recordOf(recorded);
  if (!is_proof_current) judged_.proof = core::proveBench(study(), record);
  proved_records_ = records;
  proved_study_ = study();
  judged_ = core::judgementOf(study(), record, std::move(judged_.proof));
  problems_ = core::problemsOf(study());
  Q_EMIT changed();
}

void StudyModel::report(const core::Status& status) {
  if (!status) Q_EMIT failed(toQt(status.error().sentence()));
}

void StudyModel::changeJudging(const core::Judging& judging, const QString& reason) {
  if (hasStudy()) report(session_->changeJudging(judging, reason.toStdString()));
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

void StudyModel::addNote(const QString& text, const QString& moment) {
  if (hasStudy()) report(session_->addNote(text.toStdString(), moment.toStdString()));
}

QString StudyModel::nextLowerLevel() const {
  if (unreachable().empty()) return {};
  const auto lower = core::nextLowerLevel(study().kind, study().level(unreachable().back().side).name);
  const std::string& other =
      study()
          .level(unreachable().back().side == core::Side::Baseline ? core::Side::Changed : core::Side::Baseline)
          .name;
  return lower && *lower != other ? toQt(*lower) : QString();
}

store::BenchRegister StudyModel::benches() const {
  return hasStudy() ? session_->benches() : store::BenchRegister(files_.benches);
}

void StudyModel::stateFacts(const std::map<QString, QString>& facts) {
  if (!hasStudy()) return;
  const std::vector<core::Fact> known = store::statedFactsOf(session_->recorded());
  for (const auto& [id, value] : facts) {
    const std::string name = "stated/" + id.toStdString();
    const auto same = std::find_if(known.begin(), known.end(), [&](const core::Fact& one) { return one.name == name; });
    const std::string before = same == known.end() ? "" : same->value;
    if (value.trimmed().toStdString() != before)
      report(session_->state(id.toStdString(), value.trimmed().toStdString()));
  }
}

void StudyModel::openEarly(const QString& reason) {
  if (hasStudy()) report(session_->openEarly(reason.toStdString()));
}

void StudyModel::declareUnreachable(core::Side side, const QString& reason) {
  if (hasStudy()) report(session_->declareUnreachable(side, reason.toStdString()));
}

void StudyModel::putBackLeftOvers() {
  QStringList sentences;
  for (const std::string& sentence : session::putBackLeftOvers(files_, session::personAtThisMachine()))
    sentences << toQt(sentence);
  if (!sentences.isEmpty()) Q_EMIT informed(sentences.join(QLatin1Char('\n')));
}

core::Verdict StudyModel::headlineVerdict() const {
  if (findings().suite) return findings().suite->verdict;
  return findings().cases.empty() ? core::Verdict::NotSettled : findings().cases.front().verdict;
}

void StudyModel::startPlaying() {
  if (hasStudy()) report(session_->startPlaying());
}

void StudyModel::beginStretch() {
  if (hasStudy()) report(session_->beginStretch());
}

void StudyModel::pressPlayersKey() {
  using Phase = session::PlayedStretch::Phase;
  const session::PlayedStretch* stretch = hasStudy() ? session_->playedStretch() : nullptr;
  if (!stretch) return;
  const Phase phase = stretch->phase(session_->secondsInPass());
  if (phase == Phase::Waiting) report(session_->beginStretch(0));
  if (phase == Phase::Counting) endStretch();
}

void StudyModel::endStretch() {
  if (hasStudy()) report(session_->endStretch());
}

void StudyModel::feel(const QString& word) {
  if (!hasStudy()) return;
  if (const auto pass = session_->passToFeel()) report(session_->feel(*pass, word.toStdString()));
}

void StudyModel::predict(const QString& who, std::optional<double> percent) {
  if (hasStudy()) report(session_->predict(who.trimmed().toStdString(), percent));
}

void StudyModel::skipNext(const QString& reason) {
  if (hasStudy()) report(session_->skipNext(reason.toStdString()));
}

void StudyModel::addRound(const QString& reason) {
  if (hasStudy()) report(session_->addRound(reason.toStdString()));
}

void StudyModel::extendPlan() {
  if (hasStudy() && extension()) report(session_->extendPlan(*extension()));
}

void StudyModel::exclude(std::int64_t pass_id, const QString& cause) {
  if (hasStudy()) report(session_->exclude(pass_id, cause.toStdString()));
}

bool StudyModel::typeResult(std::size_t slot, const core::TypedValue& typed) {
  if (!hasStudy()) return false;
  const core::Status done = session_->typeResult(slot, typed);
  report(done);
  return done.ok();
}

core::Status StudyModel::importPass(std::size_t slot, session::Session::OutsideFrames frames) {
  return session_->importPass(slot, std::move(frames));
}

void StudyModel::pin(const QString& case_title, const QString& remark) {
  if (hasStudy()) report(session_->pin(case_title.toStdString(), remark.toStdString()));
}

void StudyModel::explain(const QString& case_title, core::Grade grade, const QString& text) {
  if (hasStudy()) report(session_->explain(case_title.toStdString(), grade, text.toStdString()));
}

void StudyModel::keepProof(std::int64_t pass_id, const QString& picture_path) {
  if (hasStudy()) report(session_->keepProof(pass_id, picture_path.toStdString()));
}

void StudyModel::include(std::int64_t pass_id) {
  if (hasStudy()) report(session_->include(pass_id));
}

void StudyModel::stopAtLook() {
  if (hasStudy()) report(session_->stopAtLook());
}

void StudyModel::newConfirmation(const QString& path, std::size_t case_index) {
  if (!hasStudy() || case_index >= study().cases.size()) return;
  const core::Study again = core::confirmationOf(study(), findings(), case_index);
  addNote(tr("A confirmation of %1 begins: %2").arg(toQt(again.cases.front().title()), path));
  create(path, again);
}

void StudyModel::stateStable(core::Side side, const QString& how) {
  if (hasStudy()) report(session_->stateStable(side, how.toStdString()));
}

void StudyModel::setSecondFolder(const QString& folder) {
  if (hasStudy()) report(session_->setSecondFolder(folder.toStdString()));
}

void StudyModel::acceptDoubt(const QString& doubt_id, const QString& reason) {
  if (hasStudy()) report(session_->acceptDoubt(doubt_id.toStdString(), reason.toStdString()));
}

}  // namespace app
