// What a person must be able to read, find and reach.
#include <QAbstractItemModelTester>
#include <QCoreApplication>
#include <QHeaderView>
#include <cmath>
#include <set>

#include "app/shell/theme.h"
#include "app/shell/window_actions.h"
#include "support/window.h"

namespace {

double luminance(const QColor& colour) {
  const auto linear = [](double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
  return 0.2126 * linear(colour.redF()) + 0.7152 * linear(colour.greenF()) + 0.0722 * linear(colour.blueF());
}

double contrast(const QColor& a, const QColor& b) {
  const double one = luminance(a) + 0.05;
  const double other = luminance(b) + 0.05;
  return std::max(one / other, other / one);
}

TEST(Themes, AreReadableOnEveryGround) {
  for (const auto name : {app::ThemeName::Paper, app::ThemeName::Night}) {
    const app::Theme& t = app::themeNamed(name);
    const std::pair<const char*, QColor> texts[] = {
        {"ink", t.ink}, {"soft ink", t.soft_ink}, {"baseline", t.baseline}, {"changed", t.changed}};
    for (const auto& [text, colour] : texts)
      for (const QColor& ground : {t.paper, t.sheet})
        EXPECT_GE(contrast(colour, ground), 4.5)
            << t.name.toStdString() << ": " << text << " on " << ground.name().toStdString();
    for (const QColor& colour : {t.ink, t.stop, t.caution, t.focus})
      EXPECT_GE(contrast(colour, t.tray), 4.5) << t.name.toStdString();
    EXPECT_GE(contrast(t.on_changed, t.changed), 4.5);
    EXPECT_GE(contrast(t.sheet, t.focus), 4.5);  // a selected row
  }
}

class Look : public support::WindowTest {
 protected:
  template <class Check>
  void onEveryPlace(const Check& check) {
    for (const char* action : {"questionAction", "benchAction", "runSheetAction", "passesAction", "findingsAction"}) {
      trigger(action);
      QCoreApplication::processEvents();
      check(std::string(action));
    }
  }
};

TEST_F(Look, CutsNoTextAtTheUsualSize) {
  openDemo();
  EXPECT_EQ(window_->width(), 1280);  // it did not have to grow
  window_->resize(1280, 800);
  onEveryPlace([this](const std::string& place) {
    EXPECT_LE(window_->minimumSizeHint().width(), 1280) << place;
    EXPECT_LE(window_->minimumSizeHint().height(), 800) << place;
    for (const QLabel* label : window_->findChildren<QLabel*>()) {
      if (!label->isVisible() || label->text().isEmpty()) continue;
      const int needed = label->wordWrap() ? label->heightForWidth(label->width()) : label->sizeHint().height();
      EXPECT_GE(label->height(), needed) << place << ": " << label->objectName().toStdString() << ": "
                                         << label->text().toStdString();
    }
    for (const QPushButton* button : window_->findChildren<QPushButton*>())
      if (button->isVisible()) {
        EXPECT_GE(button->width(), button->fontMetrics().horizontalAdvance(button->text()))
            << place << ": " << button->text().toStdString();
      }
  });
}

TEST_F(Look, NamesEveryControlAndReachesItByKey) {
  openDemo();
  onEveryPlace([this](const std::string& place) {
    for (const QWidget* widget : window_->findChildren<QWidget*>()) {
      const bool is_control = qobject_cast<const QAbstractButton*>(widget) || qobject_cast<const QLineEdit*>(widget) ||
                              qobject_cast<const QComboBox*>(widget) || qobject_cast<const QAbstractSpinBox*>(widget) ||
                              qobject_cast<const QAbstractItemView*>(widget);
      if (!is_control || !widget->isVisible() || widget->objectName().startsWith(QLatin1String("qt_"))) continue;
      if (qobject_cast<const QHeaderView*>(widget)) continue;  // part of its table
      EXPECT_FALSE(widget->objectName().isEmpty()) << place << ": " << widget->metaObject()->className();
      EXPECT_TRUE(widget->focusPolicy() & Qt::TabFocus) << place << ": " << widget->objectName().toStdString();
    }
  });
}

TEST_F(Look, GivesEveryActionATextAndItsOwnKey) {
  open();
  std::set<QString> ids;
  std::set<QString> keys;
  for (const app::WindowAction& action : app::windowActions(*window_)) {
    EXPECT_FALSE(action.text.isEmpty()) << action.id.toStdString();
    EXPECT_TRUE(ids.insert(action.id).second) << action.id.toStdString();
    if (!action.shortcut.isEmpty()) {
      EXPECT_TRUE(keys.insert(action.shortcut.toString()).second) << action.shortcut.toString().toStdString();
    }
  }
}

TEST_F(Look, HasModelsThatKeepTheirPromises) {
  open();
  app::LeverModel levers(*study_);
  app::DoubtsModel doubts(*study_);
  app::PassTableModel passes(*study_);
  const QAbstractItemModelTester testers[] = {
      QAbstractItemModelTester(&levers, QAbstractItemModelTester::FailureReportingMode::Fatal),
      QAbstractItemModelTester(&doubts, QAbstractItemModelTester::FailureReportingMode::Fatal),
      QAbstractItemModelTester(&passes, QAbstractItemModelTester::FailureReportingMode::Fatal)};
  study_->openDemo(QString::fromStdString(folder_ / "demo"));
  ASSERT_TRUE(support::waitUntil([this] { return study_->hasStudy() && !study_->session().isRunning(); }));
  EXPECT_EQ(levers.rowCount(), 8);  // seven cases and the suite
  EXPECT_FALSE(levers.row(0).case_index);
  EXPECT_GT(passes.rowCount(), 0);
  EXPECT_GT(doubts.rowCount(), 0);
}

TEST_F(Look, ChangesTheThemeAsItStands) {
  openDemo();
  trigger("nightAction");
  EXPECT_EQ(app::currentThemeName(), app::ThemeName::Night);
  EXPECT_EQ(find<QWidget>("claimLine")->grab().toImage().pixelColor(3, 3),
            app::themeNamed(app::ThemeName::Night).sheet);
  trigger("nightAction");
  EXPECT_EQ(app::currentThemeName(), app::ThemeName::Paper);
}

}  // namespace
