// What cannot be used says why, and what is in doubt says what to press.
#include <QAbstractSpinBox>
#include <QHelpEvent>
#include <QRegularExpression>
#include <QToolTip>
#include <set>

#include "app/at_work/at_work_window.h"
#include "app/model/doubt_acts.h"
#include "app/question/case_dialog.h"
#include "app/shell/usable.h"
#include "app/shell/window_actions.h"
#include "support/run_session.h"
#include "support/studies.h"
#include "support/window.h"

namespace {

class Usable : public support::WindowTest {
 protected:
  static bool isControl(const QWidget& widget) {
    return qobject_cast<const QAbstractButton*>(&widget) || qobject_cast<const QLineEdit*>(&widget) ||
           qobject_cast<const QComboBox*>(&widget) || qobject_cast<const QAbstractSpinBox*>(&widget) ||
           qobject_cast<const QAbstractItemView*>(&widget);
  }
  /// How many of the controls that are seen cannot be used; each must say why.
  static int checkAll(const QWidget& within, const std::string& state) {
    int disabled = 0;
    for (const QWidget* widget : within.findChildren<QWidget*>()) {
      if (!isControl(*widget) || !widget->isVisible() || widget->isEnabled()) continue;
      if (widget->objectName().startsWith(QLatin1String("qt_"))) continue;  // part of another
      ++disabled;
      EXPECT_FALSE(app::whyNotUsable(*widget).isEmpty()) << state << ": " << widget->objectName().toStdString();
    }
    return disabled;
  }
  int onEveryPage(const std::string& state) {
    int disabled = 0;
    for (const char* action :
         {"questionAction", "benchAction", "runSheetAction", "passesAction", "findingsAction", "reportPlaceAction"}) {
      trigger(action);
      QCoreApplication::processEvents();
      disabled += checkAll(*window_, state + ", " + action);
    }
    trigger("questionAction");
    for (auto* fold : window_->findChildren<app::Fold*>()) fold->setOpen(true);
    for (int step = 1; step <= 5; ++step) {
      window_->showStep(step);
      disabled += checkAll(*window_, state + ", step " + std::to_string(step));
    }
    return disabled;
  }
  static QString tipOn(QWidget& widget) {
    QHelpEvent asked(QEvent::ToolTip, QPoint(2, 2), widget.mapToGlobal(QPoint(2, 2)));
    QCoreApplication::sendEvent(&widget, &asked);
    return QToolTip::text();
  }
};

TEST_F(Usable, EveryDisabledControlSaysWhy) {
  open();
  EXPECT_GT(onEveryPage("no study"), 0);
  press("welcomeNewButton");
  EXPECT_GT(onEveryPage("an empty question"), 0);
  window_->showStep(3);
  EXPECT_EQ(tipOn(*find<QPushButton>("removeCaseButton")), QStringLiteral("No case is in the study yet"));
  study_->create(QString::fromStdString(folder_ / "run.ironlever"),
                 support::timedStudyOf({"echo", "{\"seconds\": 1}"}));
  onEveryPage("a question that is asked");
  study_->act([](session::Session& s) { return s.approve(); });
  study_->act(&session::Session::start);
  onEveryPage("a sheet that runs");
  ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }));
  EXPECT_GT(onEveryPage("a finished study"), 10);
  EXPECT_EQ(tipOn(*find<QLineEdit>("benchEdit")), study_->whyLocked());
}

TEST_F(Usable, EveryDisabledFieldOfADialogSaysWhy) {
  core::Study study = support::timedStudyOf({"echo", "{\"seconds\": 1}"});
  study.cases[0].source = core::ResultSource::ByHand;
  app::CaseDialog of_a_case(study.cases[0]);
  of_a_case.show();
  EXPECT_GT(checkAll(of_a_case, "a typed case"), 3);
  app::AtWorkModel nobody(bench_, session::UserFiles::in(folder_ / "user"));
  app::AtWorkWindow at_work(nobody, prompts_);
  at_work.show();
  EXPECT_GT(checkAll(at_work, "no bench at work"), 5);
}

TEST_F(Usable, ADoubtNamesItsActAndPerformsIt) {
  openStudy(support::timedStudyOf({"false"}));
  study_->act([](session::Session& s) { return s.approve(); });
  study_->act(&session::Session::start);
  ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }));
  trigger("doubtsAction");
  auto* list = find<QListView>("doubtsList");
  const auto& doubts = study_->judgement().doubts;
  const auto failed =
      std::find_if(doubts.begin(), doubts.end(), [](const auto& one) { return one.id.starts_with("failed/"); });
  ASSERT_NE(failed, doubts.end());
  list->setCurrentIndex(list->model()->index(static_cast<int>(failed - doubts.begin()), 0));
  EXPECT_EQ(find<QPushButton>("mendDoubtButton")->text(), QStringLiteral("Repeat failed passes"));
  EXPECT_EQ(find<QPushButton>("showDoubtButton")->text(), QStringLiteral("Show: Run sheet"));
  const std::size_t before = study_->session().recorded().passes.size();
  press("mendDoubtButton");
  study_->act(&session::Session::start);
  ASSERT_TRUE(support::waitUntil([this] { return !study_->session().isRunning(); }));
  EXPECT_GT(study_->session().recorded().passes.size(), before);
}

TEST_F(Usable, EveryActOfADoubtStandsInAMenu) {
  open();
  std::set<QString> acts;
  for (const app::WindowAction& one : app::windowActions(*window_)) acts.insert(one.id);
  int with_act = 0;
  const QString kinds =
      QString::fromStdString(support::contents(IRON_LEVER_SOURCE "/src/core/judgement/doubt_kinds.h") +
                             support::contents(IRON_LEVER_SOURCE "/src/core/proof/retired_visits.h"));
  static const QRegularExpression id(QStringLiteral("\"([a-z_]+)\""));
  for (auto each = id.globalMatch(kinds); each.hasNext();) {
    const QString kind = each.next().captured(1);
    const QString act = app::actOfDoubt(kind + QStringLiteral("/of one"));
    if (act.isEmpty()) continue;
    ++with_act;
    EXPECT_TRUE(acts.contains(act)) << kind.toStdString();
  }
  EXPECT_GT(with_act, 30);
}

}  // namespace
