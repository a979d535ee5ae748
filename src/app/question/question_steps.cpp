// The question's steps: which is open, what each closed one says, and what the bench and the shelf offer in them.
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <utility>

#include "app/model/command_text.h"
#include "app/model/question_answers.h"
#include "app/model/shelf_rows.h"
#include "app/question/bench_now_view.h"
#include "app/question/editors.h"
#include "app/question/kind_chooser.h"
#include "app/question/level_offers.h"
#include "app/question/plan_editor.h"
#include "app/question/plan_outlook.h"
#include "app/question/question_page.h"
#include "app/question/shape_editor.h"
#include "app/question/shelf.h"
#include "app/question/step_card.h"
#include "bench/capture.h"
#include "core/estimate/wording.h"
#include "core/machine/variable_kind.h"
#include "core/study/level_choice.h"
#include "session/far/far_look.h"
#include "session/far/far_sheet.h"
#include "session/user/installed_programs.h"

namespace app {
namespace {

// The first steps hold lists, which take what room there is.
constexpr std::size_t kStepsWithLists = 3;

}  // namespace

void QuestionPage::connectSteps() {
  connect(kind_, &KindChooser::chosen, this, [this](const QString& kind) { takeKind(kind.toStdString()); });
  connect(levels_, &ShapeEditor::kindChosen, this, &QuestionPage::takeKind);
  connect(offers_, &LevelOffers::pressed, this,
          [this](std::size_t level, const QString& before) { takeOffered(level, before.toStdString()); });
  connect(shelf_, &Shelf::putRequested, this, [this](const core::ShelfItem& item, bool as_control) {
    study_.replaceStudy(core::withWorkload(study_.study(), item, as_control));
  });
  connect(shelf_, &Shelf::tryRequested, this, &QuestionPage::tryOnce);
  connect(&trial_, &session::Trial::finished, this, &QuestionPage::showTried);
  connect(outlook_, &PlanOutlook::chosen, plan_, &PlanEditor::choose);
  connect(plan_, &PlanEditor::minutesChosen, this, &QuestionPage::takeMinutes);
}

void QuestionPage::openStep(int number) {
  for (std::size_t i = 0; i < cards_.size(); ++i) {
    const bool is_open = static_cast<int>(i) + 1 == number;
    cards_[i]->setOpen(is_open);
    const bool holds_list = i < kStepsWithLists;
    steps_->setStretchFactor(cards_[i], is_open && holds_list ? 1 : 0);
    cards_[i]->setSizePolicy(QSizePolicy::Preferred,
                             is_open && holds_list ? QSizePolicy::Expanding : QSizePolicy::Maximum);
  }
}

void QuestionPage::loadAnswers() {
  const core::Study& study = study_.study();
  cards_[0]->setAnswer(whatIsChanged(study));
  cards_[1]->setAnswer(betweenWhich(study));
  cards_[2]->setAnswer(measuredWith(study));
  cards_[3]->setAnswer(whatMatters(study));
}

// Another study: what was read, tried and offered for the one before says nothing of it.
void QuestionPage::beginStudy() {
  openStep(std::max(1, firstOpenStep(study_.study())));
  if (trial_.isRunning()) trial_.stop();
  shelf_->showTrial({}, false);
  forgetBench(tr("Being read …"));
  if (isVisible()) lookAround();
}

void QuestionPage::forgetBench(const QString& why) {
  ++look_;
  now_.reset();
  kind_->showBench(nullptr);
  bench_now_->showNothing(why);
}

// When the page is seen, and beside it: reading a machine may take long. While passes run they are not disturbed.
void QuestionPage::lookAround() {
  if (!installed_) {
    installed_.emplace();
    background_.run<std::vector<core::ShelfItem>>(
        [] { return session::installedPrograms(session::applicationFolders()); },
        [this](const std::vector<core::ShelfItem>& found) {
          installed_ = found;
          if (study_.hasStudy()) shelf_->setRows(shelfRows(study_, *installed_));
        });
  }
  shelf_->setRows(shelfRows(study_, *installed_));
  if (!study_.session().isRunning()) lookAtBench();
}

void QuestionPage::lookAtBench() {
  if (!study_.study().ssh_name.empty()) return lookThere();
  if (!core::isBenchHere(study_.study()))
    return forgetBench(tr("Its passes run on another machine; nothing of it can be read here."));
  awaits_approval_ = study_.session().machine().awaitsApproval();
  if (awaits_approval_) return forgetBench(tr("A folder stands for it, which nobody has approved yet."));
  const int look = ++look_;
  background_.run<bench::BenchNow>(
      [stand_in = study_.session().machine().standIn(), &here = study_.machineHere(),
       root_facts = study_.files().root_facts, end = background_.end()] {
        bench::BenchConnection& machine = stand_in ? *stand_in : here;
        const auto with_root = bench::WithRootFacts::open(machine, root_facts);
        return with_root ? bench::benchNow(*with_root, end) : bench::benchNow(machine, end);
      },
      [this, look](const bench::BenchNow& now) {
        if (look == look_) showBench(now);
      });
}

// A bench over ssh is asked once a person has approved that ssh is started for it.
void QuestionPage::lookThere() {
  awaits_approval_ = !study_.session().machine().unapprovedActs().empty();
  const QString name = toQt(study_.study().ssh_name);
  if (awaits_approval_)
    return forgetBench(
        tr("It is another computer, %1, reached over ssh. Nobody here has approved yet that it is reached: "
           "see the run sheet.")
            .arg(name));
  forgetBench(tr("%1 is being asked …").arg(name));
  session::SshLink::To to = session::sshTo(study_.study(), study_.session().open().folder());
  to.end = background_.end();
  using Look = core::Result<session::FarLook>;
  background_.run<Look>(
      [to, identity = study_.session().open().file().identity()] { return session::lookThere(to, identity); },
      [this, look = look_, name](const Look& found) {
        if (look != look_) return;
        if (!found) return bench_now_->showNothing(toQt(found.error().sentence()));
        QString said = tr("%1 is reached over ssh without a password. Version %2 is there. Its clock is %3.")
                           .arg(name, toQt(found->hello.version), toQt(found->clocks.text()));
        if (const std::string remedy = found->clocks.remedy(); !remedy.empty()) said += tr(" %1.").arg(toQt(remedy));
        bench_now_->show(found->capture, said);
      });
}

void QuestionPage::showBench(const bench::BenchNow& now) {
  now_ = now;
  bench_now_->show(now.capture);
  kind_->showBench(&now);
  if (std::exchange(awaits_levels_, false) && study_.whyLocked().isEmpty()) takeKind(kind_->kind());
  loadOffers();
}

bench::Offer QuestionPage::offerOf(const std::string& kind) const {
  return now_ ? now_->offerOf(kind) : bench::Offer();
}

// Where configurations are listed they name levels, so none is put in or taken out with one press.
void QuestionPage::loadOffers() {
  const session::Machine& machine = study_.session().machine();
  const bool is_approved =
      study_.study().ssh_name.empty() ? !machine.awaitsApproval() : machine.unapprovedActs().empty();
  if (awaits_approval_ && is_approved) lookAtBench();
  const core::Variable& variable = study_.study().variables[variableInHand()];
  const bool is_listed = !study_.study().configurations.empty();
  offers_->load(variable, is_listed ? bench::Offer() : offerOf(variable.kind), study_.whyLocked().isEmpty());
}

// A bench that has not been read yet proposes its levels as soon as it is.
void QuestionPage::takeKind(const std::string& chosen) {
  if (is_loading_ || !study_.whyLocked().isEmpty()) return;
  const std::size_t place = variableInHand();
  const auto likely = [this](const std::string& kind) {
    const bench::Offer offer = offerOf(kind);
    return core::likelyPair(offer.levels, offer.levelNow());
  };
  awaits_levels_ = !now_;
  study_.replaceStudy(core::withKind(study_.study(), place, core::findVariableKind(chosen), likely(chosen),
                                     likely(study_.study().variables[place].kind)));
}

void QuestionPage::takeOffered(std::size_t level, const std::string& before) {
  const std::size_t place = variableInHand();
  const bench::Offer offer = offerOf(study_.study().variables[place].kind);
  if (level < offer.levels.size() && study_.whyLocked().isEmpty())
    study_.replaceStudy(core::withOffered(study_.study(), place, offer.levels, level, before));
  loadOffers();  // also where nothing came of it: a switch shows what is so
}

void QuestionPage::tryOnce(const core::ShelfItem& item) {
  if (trial_.isRunning()) return trial_.stop();
  if (study_.session().isRunning()) return shelf_->showTrial(tr("Passes run: a trial would disturb them."), false);
  tried_ = item.a_case.title();
  shelf_->showTrial(tr("%1 runs …").arg(toQt(tried_)), true);
  trial_.start(item.a_case, study_.session().open().folder(), study_.study().targets(),
               study_.study().plan.time_limit_s);
}

void QuestionPage::showTried(const session::MeasuredPass& measured, double seconds) {
  const core::Pass& pass = measured.pass;
  if (!pass.value) return shelf_->showTrial(tr("%1: %2").arg(toQt(tried_), toQt(pass.failure)), false);
  QString frames;
  if (!measured.frame_ms.empty()) frames = tr(", %1 frames").arg(measured.frame_ms.size());
  shelf_->showTrial(tr("%1: %2%3, in %4 s. Nothing of it was filed.")
                        .arg(toQt(tried_), toQt(core::valueText(*pass.value, trial_.metric().unit)), frames)
                        .arg(seconds, 0, 'f', 1),
                    false);
}

void QuestionPage::takeMinutes(double minutes) {
  if (const auto plan = planWithin(study_, minutes)) return plan_->choose(*plan);
  study_.tell(core::Error{core::ErrorKind::OutOfRange, "no plan with an interval is so short", "plan",
                          "Give it more time, take out cases, or shorten a flip or a pass"});
  is_plan_due_ = true;
  load();
}

}  // namespace app
