// The question's steps: which is open, what each closed one says, and what the bench and the shelf offer in them.
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

#include "app/model/command_text.h"
#include "app/model/question_answers.h"
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
#include "core/estimate/wording.h"
#include "core/machine/variable_kind.h"
#include "core/study/reshaped.h"
#include "session/installed_programs.h"

namespace app {
namespace {

// The first steps hold lists, which take what room there is.
constexpr std::size_t kStepsWithLists = 3;

// "memory speed" of "memory speed or profile".
std::string nameOfKind(const core::VariableKind& kind) {
  const std::string_view title = kind.title;
  return std::string(title.substr(0, std::min(title.find(" or "), title.find(','))));
}

// With the noise that was measured of them.
std::vector<core::ShelfItem> usedBefore(const StudyModel& study) {
  std::vector<core::ShelfItem> items;
  const std::string bench = study.session().machine().registeredName();
  const auto cases = study.benches().workloads(bench);
  const auto noise = study.benches().noise(bench);
  if (!cases) return items;
  for (const core::Case& one : *cases) {
    core::ShelfItem item;
    item.a_case = one;
    if (noise)
      for (const store::BenchRegister::Noise& known : *noise)
        if (known.measured.title == one.title() && known.measured.noise.pass_sd)
          item.about = QuestionPage::tr("passes differ by %1 %")
                           .arg(100 * *known.measured.noise.pass_sd, 0, 'f', 2)
                           .toStdString();
    items.push_back(std::move(item));
  }
  return items;
}

bool isSaid(const core::Level& level) { return level != core::Level(); }

}  // namespace

void QuestionPage::connectSteps() {
  connect(kind_, &KindChooser::chosen, this, &QuestionPage::takeKind);
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

// After the window stands, beside it: reading a machine may take long.
void QuestionPage::lookAtBench() {
  now_.reset();
  if (!study_.hasStudy()) return;
  if (!core::isBenchHere(study_.study()))
    return bench_now_->showNothing(tr("Its passes run on another machine; nothing of it can be read here."));
  const session::Machine& machine = study_.session().machine();
  const auto stand_in = machine.standIn();
  awaits_approval_ = machine.awaitsApproval();
  if (awaits_approval_) return bench_now_->showNothing(tr("A folder stands for it, which nobody has approved yet."));
  bench_now_->showNothing(tr("Being read …"));
  background_.run<bench::BenchNow>(
      [stand_in, &here = study_.machineHere()] { return bench::benchNow(stand_in ? *stand_in : here); },
      [this](const bench::BenchNow& now) {
        now_ = now;
        bench_now_->show(now.capture);
        kind_->showBench(now);
        if (study_.hasStudy()) loadOffers();
      });
}

void QuestionPage::loadOffers() {
  if (awaits_approval_ && !study_.session().machine().awaitsApproval()) lookAtBench();
  const core::Variable& variable = study_.study().variables[variableInHand()];
  const auto offer = now_ ? now_->offers.find(variable.kind) : decltype(now_->offers.end())();
  const bool is_offered = now_ && offer != now_->offers.end() && study_.study().shape != core::Shape::Chain;
  offers_->load(variable, is_offered ? offer->second : bench::Offer(), study_.whyLocked().isEmpty());
}

// A kind brings the command that measures it and the levels that this bench offers, unless the person has written
// others; the next step is shown.
void QuestionPage::takeKind() {
  if (is_loading_ || !study_.whyLocked().isEmpty()) return;
  core::Study study = study_.study();
  core::Variable& variable = study.variables[variableInHand()];
  const core::VariableKind* before = core::findVariableKind(variable.kind);
  const core::VariableKind* kind = core::findVariableKind(kind_->kind());
  const std::string device = variable.device;
  const bool is_own = !study.measure_command.empty() &&
                      !(before && study.measure_command == core::suggestedMeasureCommand(*before, device));
  if (!is_own && study.machine.empty())
    study.measure_command = kind ? core::suggestedMeasureCommand(*kind, device) : core::Command();
  const bool is_own_test = !study.stability_command.empty() &&
                           !(before && study.stability_command == core::suggestedStabilityCommand(*before));
  if (!is_own_test && study.machine.empty())
    study.stability_command = kind ? core::suggestedStabilityCommand(*kind) : core::Command();
  if (variable.name.empty() || (before && variable.name == nameOfKind(*before)))
    variable.name = kind ? nameOfKind(*kind) : std::string();
  const auto offer_of = [&](const core::VariableKind* one) {
    const auto found = now_ && one ? now_->offers.find(one->id) : decltype(now_->offers.end())();
    return now_ && one && found != now_->offers.end() ? found->second : bench::Offer();
  };
  const bool are_untouched = std::none_of(variable.levels.begin(), variable.levels.end(), isSaid) ||
                             variable.levels == likelyPair(offer_of(before));
  if (are_untouched) {
    const auto likely = likelyPair(offer_of(kind));
    variable.levels = likely.empty() ? std::vector<core::Level>(2) : likely;
    variable.baseline = 0;
  }
  variable.kind = kind ? std::string(kind->id) : std::string();
  const double usual_before = before ? core::usualFlipMinutes(*before) : core::PlanningGuess().flip_minutes;
  if (kind && study.plan.guess.flip_minutes == usual_before)  // nobody has said otherwise
    study.plan.guess.flip_minutes = core::usualFlipMinutes(*kind);
  study_.replaceStudy(study);
}

void QuestionPage::takeOffered(std::size_t level, const std::string& before) {
  core::Study study = study_.study();
  core::Variable& variable = study.variables[variableInHand()];
  const auto offer = now_ ? now_->offers.find(variable.kind) : decltype(now_->offers.end())();
  if (!now_ || offer == now_->offers.end() || !study_.whyLocked().isEmpty()) return load();
  variable = withOffered(variable, offer->second, level, study.shape == core::Shape::Pair, before);
  study_.replaceStudy(core::redrawn(study));
  loadOffers();  // also where nothing came of it: a switch shows what is so
}

void QuestionPage::fillShelf() {
  std::vector<Shelf::Row> rows;
  const auto put = [&](const core::ShelfItem& item, const QString& from) {
    const bool is_there = std::any_of(rows.begin(), rows.end(), [&](const Shelf::Row& row) {
      return row.item.a_case.title() == item.a_case.title();
    });
    if (!is_there) rows.push_back({item, from});
  };
  for (const core::ShelfItem& item : core::shippedWorkloads()) put(item, tr("ships with the program"));
  if (study_.hasStudy())
    for (const core::ShelfItem& item : usedBefore(study_)) put(item, tr("used on this bench before"));
  for (const core::ShelfItem& item : session::installedPrograms(session::applicationFolders()))
    put(item, tr("installed here"));
  shelf_->setRows(std::move(rows));
}

void QuestionPage::tryOnce(const core::ShelfItem& item) {
  if (trial_.isRunning()) return trial_.stop();
  if (study_.session().isRunning()) return shelf_->showTrial(tr("Passes run: a trial would disturb them."), false);
  tried_ = item.a_case.title();
  shelf_->showTrial(tr("%1 runs …").arg(toQt(tried_)), true);
  trial_.start(item.a_case, study_.study().target_fps, study_.study().plan.time_limit_s);
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
  planned_.reset();
  load();
}

}  // namespace app
