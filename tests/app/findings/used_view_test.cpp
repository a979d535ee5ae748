// What the levels used, where a person looks at it.
#include "app/findings/used_view.h"

#include "support/studies.h"
#include "support/window.h"

namespace {

class UsedInTheWindow : public support::WindowTest {};

TEST_F(UsedInTheWindow, StandsBesideWhatTheChangeDid) {
  openDemo();
  trigger("findingsAction");
  auto* view = find<app::UsedView>("usedView");
  EXPECT_FALSE(view->isVisible());
  trigger("usedAction");
  EXPECT_TRUE(view->isVisible());
  EXPECT_TRUE(find<QPushButton>("showUsedButton")->isChecked());
  // Of all cases what surely moved; of the chosen one every channel that could be read.
  const QString of_all = view->widget()->accessibleDescription();
  auto* list = find<QListView>("leverList");
  list->setCurrentIndex(list->model()->index(3, 0));
  const QString of_one = view->widget()->accessibleDescription();
  for (const char* channel : {"graphics load: ", "memory in use: ", "processor clock: ", "energy a frame, "})
    EXPECT_TRUE(of_one.contains(QLatin1String(channel))) << of_one.toStdString();
  EXPECT_NE(of_one, of_all);
  EXPECT_TRUE(textOf("evidenceLabel").contains(QStringLiteral("What the levels used")));
  press("showUsedButton");
  EXPECT_FALSE(view->isVisible());
}

TEST_F(UsedInTheWindow, IsNotShownWhileResultsAreSealed) {
  core::Study study = support::timedStudyOf({"echo", "{\"seconds\": 1}"});
  study.plan.is_sealed = true;
  openStudy(study);
  trigger("usedAction");
  EXPECT_FALSE(find<app::UsedView>("usedView")->isVisible());
}

}  // namespace
