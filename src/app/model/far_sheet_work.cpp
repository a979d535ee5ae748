#include "app/model/far_sheet_work.h"

#include "app/model/qt_text.h"
#include "bench/local_bench.h"
#include "core/values/shown_text.h"
#include "session/study/approvals.h"
#include "session/user/file_lock.h"
#include "session/user/study_list.h"

namespace app {

using Phase = WorkStanding::Phase;
using core::ErrorKind;
using session::FarEnd;
using session::FarSheet;

FarSheetWork::FarSheetWork(store::StudyFile file, std::string person, const session::UserFiles& files)
    : path_(file.path()), person_(person), files_(files) {
  session::OpenStudy open(std::move(file), std::move(person));
  study_ = open.study();
  folder_ = open.folder();
  path_ = open.absolutePath();
  if (auto read = open.read(); !read) {
    stand(Phase::Failed, toQt(read.error().sentence()));
    return;
  }
  schedule_ = open.schedule();
  lookAgain(settledPasses(open.ledger()));
}

FarSheetWork::~FarSheetWork() = default;

// What a person did, or is to do, is told by the sheet there once it is asked.
void FarSheetWork::lookAgain(int filed) {
  standing_.planned = static_cast<int>(schedule_.size());
  standing_.filed = filed;
  standing_.seconds_left.reset();
  const bool is_done = filed >= standing_.planned;
  standing_.hand = is_done ? QString() : passInHand(study_, schedule_[static_cast<std::size_t>(filed)]);
  if (is_done) return stand(Phase::Done);
  if (!toApprove().isEmpty()) return stand(Phase::AsksApproval, tr("read what it starts, and approve it"));
  stand(Phase::Ready);
}

void FarSheetWork::stand(Phase phase, const QString& words) {
  standing_.phase = phase;
  standing_.words = words;
  Q_EMIT changed();
}

std::vector<session::Act> FarSheetWork::actsHere() const {
  return session::Approvals(files_.approvals).missing(session::actsOf(study_, folder_, bench::LocalBench()));
}

QStringList FarSheetWork::toApprove() const {
  QStringList sentences;
  for (const session::Act& act : actsHere()) sentences << toQtWhole(act.sentence());
  for (const std::string& sentence : acts_.sentences)
    sentences << tr("At %1: %2").arg(toQt(study_.ssh_name), toQtWhole(sentence));
  return sentences;
}

core::Status FarSheetWork::approve() {
  if (const auto here = actsHere(); !here.empty())
    if (auto approved = session::Approvals(files_.approvals).approve(here); !approved) return approved;
  approved_ = acts_.digest;
  acts_ = {};
  stand(Phase::Ready);
  return core::Done{};
}

core::Status FarSheetWork::start() {
  if (standing_.isRunning()) return core::Done{};
  if (!toApprove().isEmpty())
    return core::Error{ErrorKind::NotApproved, "nobody here has approved what would be started", path_,
                       "Read it and approve it"};
  is_stopping_ = false;
  lines_.clear();
  passes_heard_ = 0;
  session::ReachedOrder order;
  order.is_approved = !approved_.empty();
  order.digest = approved_;
  order.person = person_;
  stand(Phase::Connecting);
  background_.run<Outcome>([this, order] { return follow(order); }, [this](const Outcome& outcome) { take(outcome); });
  return core::Done{};
}

void FarSheetWork::stop() {
  if (!standing_.isRunning()) return;
  is_stopping_ = true;
  stand(Phase::Stopping);
}

// Beside the window's thread, with a connection of its own to the study's file.
FarSheetWork::Outcome FarSheetWork::follow(const session::ReachedOrder& order) {
  auto file = store::StudyFile::open(path_);
  if (!file) return {file.error(), {}};
  session::OpenStudy open(*std::move(file), person_);
  if (auto read = open.read(); !read) return {read.error(), {}};
  auto lock = session::FileLock::acquire(path_, person_);
  if (!lock) return {lock.error(), {}};
  const session::StudyList running(files_.running);
  running.add(path_);
  const auto wish = [this] {
    if (background_.end().stop_requested()) return FarSheet::Wish::Leave;
    return is_stopping_ ? FarSheet::Wish::Stop : FarSheet::Wish::GoOn;
  };
  FarSheet sheet(open, files_, wish, background_.end());
  const session::FarWatcher watcher{[](const FarSheet&) {},
                                    [this](bool) {
                                      QMetaObject::invokeMethod(
                                          this,
                                          [this] {
                                            since_.start();
                                            stand(is_stopping_ ? Phase::Stopping : Phase::Running);
                                          },
                                          Qt::QueuedConnection);
                                    },
                                    [this](const session::FarJson& event) {
                                      QMetaObject::invokeMethod(
                                          this, [this, event] { hear(event); }, Qt::QueuedConnection);
                                    }};
  Outcome outcome{session::runThere(sheet, open, order, watcher), {}};
  if (!background_.end().stop_requested()) running.remove(path_);
  if (!outcome.end && outcome.end.error().kind == ErrorKind::NotApproved)
    if (auto acts = sheet.actsThere()) outcome.acts = *std::move(acts);
  outcome.filed = settledPasses(open.ledger());
  return outcome;
}

void FarSheetWork::hear(const session::FarJson& event) {
  const QString text = toQtWhole(session::farText(event, "text"));
  if (session::farText(event, "event") != "pass") {
    if (!text.isEmpty()) lines_ << text;
    return;
  }
  lines_.clear();
  const auto place = event.find("pass");
  if (place == event.end() || !place->is_number_unsigned()) return;
  const auto at = std::min(place->get<std::size_t>(), schedule_.size());
  standing_.filed = static_cast<int>(at);
  standing_.hand = at < schedule_.size() ? passInHand(study_, schedule_[at]) : QString();
  ++passes_heard_;
  constexpr double kSecond_ms = 1000;
  standing_.seconds_left =
      static_cast<double>(since_.elapsed()) / kSecond_ms / passes_heard_ * static_cast<double>(schedule_.size() - at);
  Q_EMIT changed();
}

void FarSheetWork::take(const Outcome& outcome) {
  constexpr int kWaits = 4;
  acts_ = outcome.acts;
  approved_.clear();  // it is on record there now, or was not what was read
  lookAgain(outcome.filed);
  Q_EMIT filed();
  if (!acts_.sentences.empty()) return;
  if (!outcome.end) {
    const core::Error& error = outcome.end.error();
    return stand(error.kind == ErrorKind::NotAtLevel ? Phase::WaitsForPerson : Phase::Failed, toQt(error.sentence()));
  }
  if (outcome.end->how == FarEnd::How::Ended && outcome.end->code == kWaits)
    stand(Phase::WaitsForPerson, lines_.join(QLatin1Char('\n')));
}

}  // namespace app
