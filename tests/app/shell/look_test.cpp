// What a person must be able to read, find and reach.
#include <QAbstractItemModelTester>
#include <QComboBox>
#include <QCoreApplication>
#include <QHeaderView>
#include <QImage>
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "app/shell/doubts_tray.h"
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

// How well what is written on a control stands out: the strongest colour on it against the commonest one.
double writtenContrast(QWidget& widget, const QRect& part) {
  constexpr int kScale = 3;  // large enough that a stroke has a pixel of its own
  QImage image(part.size() * kScale, QImage::Format_RGB32);
  image.setDevicePixelRatio(kScale);
  image.fill(app::theme().paper);
  widget.render(&image, {}, QRegion(part));
  std::map<QRgb, int> colours;
  for (int y = 0; y < image.height(); ++y)
    for (int x = 0; x < image.width(); ++x) ++colours[image.pixel(x, y)];
  const auto ground = std::max_element(colours.begin(), colours.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
  double best = 1;
  for (const auto& [colour, count] : colours)
    if (count >= kScale) best = std::max(best, contrast(QColor(colour), QColor(ground->first)));
  return best;
}

class Look : public support::WindowTest {
 protected:
  static QString writtenOn(const QWidget& widget) {
    if (const auto* label = qobject_cast<const QLabel*>(&widget)) return label->text();
    if (const auto* button = qobject_cast<const QAbstractButton*>(&widget)) return button->text();
    if (const auto* edit = qobject_cast<const QLineEdit*>(&widget))
      return edit->text().isEmpty() ? edit->placeholderText() : edit->text();
    if (const auto* box = qobject_cast<const QComboBox*>(&widget)) return box->currentText();
    return {};
  }
  static void expectReadable(QWidget& widget, const QRect& part, const std::string& state) {
    EXPECT_GE(writtenContrast(widget, part), 4.5)
        << state << ": " << widget.metaObject()->className() << " " << widget.objectName().toStdString() << " "
        << writtenOn(widget).toStdString();
  }
  /// As it stands and, where a person may use it, as it is when nobody may.
  static void checkControl(QWidget& widget, const std::string& place) {
    if (writtenOn(widget).trimmed().isEmpty()) return;
    expectReadable(widget, widget.rect(), place);
    if (!widget.isEnabled() || qobject_cast<QLabel*>(&widget)) return;
    widget.setEnabled(false);
    expectReadable(widget, widget.rect(), place + ", disabled");
    widget.setEnabled(true);
  }
  static void checkChosenRow(QAbstractItemView& view, const std::string& place) {
    for (int row = 0; view.model() && row < std::min(view.model()->rowCount(), 2); ++row) {
      const QModelIndex index = view.model()->index(row, 0);
      if (!(index.flags() & Qt::ItemIsSelectable) || index.data().toString().isEmpty()) continue;
      const QItemSelection before = view.selectionModel()->selection();
      view.selectionModel()->select(index, QItemSelectionModel::ClearAndSelect);
      expectReadable(*view.viewport(), view.visualRect(index).intersected(view.viewport()->rect()),
                     place + ", chosen row of " + view.objectName().toStdString());
      view.selectionModel()->select(before, QItemSelectionModel::ClearAndSelect);
    }
  }
  template <class Check>
  void onEveryPlace(const Check& check) {
    for (const char* action : {"questionAction", "benchAction", "runSheetAction", "passesAction", "findingsAction"}) {
      trigger(action);
      QCoreApplication::processEvents();
      check(std::string(action));
    }
    trigger("questionAction");
    for (auto* fold : window_->findChildren<app::Fold*>()) fold->setOpen(true);
    for (int step = 1; step <= 5; ++step) {
      window_->showStep(step);
      QCoreApplication::processEvents();
      check("step " + std::to_string(step) + " with its details");
    }
    window_->showStep(1);
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

/// A heading's own measure, which the library keeps to itself.
struct OpenHeader : QHeaderView {
  using QHeaderView::sectionSizeFromContents;
};

/// What of a table's headings and cells has less room than it takes.
QStringList cutIn(const QAbstractItemView& view, const QHeaderView& header) {
  QStringList cut;
  const QAbstractItemModel& model = *view.model();
  for (int column = 0; column < model.columnCount(); ++column) {
    if (header.isSectionHidden(column)) continue;
    const QString heading = model.headerData(column, Qt::Horizontal).toString();
    if (!header.isHidden() &&
        (header.*(&OpenHeader::sectionSizeFromContents))(column).width() > header.sectionSize(column))
      cut << QStringLiteral("heading ") + heading;
    for (int row = 0; row < std::min(model.rowCount(), 40); ++row) {
      const QModelIndex cell = model.index(row, column);
      if (view.sizeHintForIndex(cell).width() > header.sectionSize(column))
        cut << heading + QStringLiteral(": ") + cell.data().toString();
    }
  }
  return cut;
}

TEST_F(Look, CutsNoHeadingAndNoCell) {
  openDemo();
  onEveryPlace([this](const std::string& place) {
    for (const QTableView* table : window_->findChildren<QTableView*>())
      if (table->isVisible()) {
        EXPECT_EQ(cutIn(*table, *table->horizontalHeader()).join(QLatin1Char('\n')).toStdString(), "")
            << place << ": " << table->objectName().toStdString();
      }
    for (const QTreeView* tree : window_->findChildren<QTreeView*>())
      if (tree->isVisible()) {
        EXPECT_EQ(cutIn(*tree, *tree->header()).join(QLatin1Char('\n')).toStdString(), "")
            << place << ": " << tree->objectName().toStdString();
      }
  });
}

// Windows beside the main one: their last column may wrap, then its row is as high as that takes.
TEST_F(Look, CutsNoCellOfAnyOtherWindow) {
  openDemo();
  for (const char* action : {"logbookAction", "benchesAction", "keysAction"}) trigger(action);
  QCoreApplication::processEvents();
  int windows = 0;
  for (QWidget* top : QApplication::topLevelWidgets()) {
    if (top == window_.get() || !top->isVisible()) continue;
    ++windows;
    for (const QTableView* table : top->findChildren<QTableView*>()) {
      const QAbstractItemModel& model = *table->model();
      const int last = model.columnCount() - 1;
      for (int row = 0; row < std::min(model.rowCount(), 40); ++row)
        for (int column = 0; column <= last; ++column) {
          const QModelIndex cell = model.index(row, column);
          const QString text = cell.data().toString();
          const QRect room(0, 0, table->columnWidth(column) - 8, 10000);
          const QRect taken = table->fontMetrics().boundingRect(room, column == last ? Qt::TextWordWrap : 0, text);
          EXPECT_LE(taken.width(), room.width() + 1) << text.toStdString();
          EXPECT_LE(taken.height(), table->rowHeight(row)) << text.toStdString();
        }
    }
  }
  EXPECT_GE(windows, 2);
}

// A small laptop, or a large screen at 200 %, with a panel and a title bar.
TEST_F(Look, FitsASmallScreen) {
  openDemo();
  static constexpr int kHeight = 720 - 36;
  window_->resize(1280, kHeight);
  onEveryPlace([this](const std::string& place) {
    EXPECT_LE(window_->minimumSizeHint().width(), 1280) << place;
    EXPECT_LE(window_->height(), kHeight) << place;
    for (const bool is_open : {false, true}) {
      auto* tray = find<app::DoubtsTray>("doubtsTray");
      tray->setOpen(is_open);
      QCoreApplication::processEvents();
      for (const char* stays : {"claimLine", "nextActionButton", "doubtsButton"}) {
        const auto* widget = find<QWidget>(stays);
        const QRect there(widget->mapTo(window_.get(), QPoint()), widget->size());
        EXPECT_TRUE(widget->isVisible() && window_->rect().contains(there))
            << place << ": " << stays << (is_open ? ", doubts open" : "");
      }
      EXPECT_LE(window_->height(), kHeight) << place << (is_open ? ", doubts open" : "");
      tray->setOpen(false);
    }
  });
}

TEST_F(Look, IsReadableInEveryStateOfEveryControl) {
  openDemo();
  for (const char* theme : {"paper", "night"}) {
    onEveryPlace([&](const std::string& at) {
      const std::string place = theme + (", " + at);
      for (QWidget* widget : window_->findChildren<QWidget*>()) {
        if (!widget->isVisible() || widget->visibleRegion().isEmpty()) continue;
        if (auto* view = qobject_cast<QAbstractItemView*>(widget); view && !qobject_cast<QHeaderView*>(widget))
          checkChosenRow(*view, place);
        else
          checkControl(*widget, place);
      }
      for (QComboBox* box : window_->findChildren<QComboBox*>()) {
        if (!box->isVisible() || box->count() == 0) continue;
        box->showPopup();
        checkChosenRow(*box->view(), place + ", list of " + box->objectName().toStdString());
        box->hidePopup();
      }
    });
    trigger("nightAction");
  }
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
      const auto* table = qobject_cast<const QAbstractItemView*>(widget);
      EXPECT_FALSE(table && table->tabKeyNavigation()) << widget->objectName().toStdString() << " does not let Tab out";
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
  study_->openDemo(QString::fromStdString(folder_ / "demo"), QStringLiteral("memory-accident"));
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
