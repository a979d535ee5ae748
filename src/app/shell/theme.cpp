#include "app/shell/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QFontMetrics>
#include <QPainter>
#include <QPalette>
#include <QProxyStyle>
#include <QStyleOption>

#include "report/report.h"

static void initFontResources() { Q_INIT_RESOURCE(fonts); }

namespace app {
namespace {

const Theme kPaper{QStringLiteral("Paper"), QColor(0xF3F0E9), QColor(0xFBFAF6), QColor(0xE8E2D5), QColor(0xD5CEC0),
                   QColor(0x23282C),        QColor(0x5C646A), QColor(0x4A545B), QColor(0xA34E27), QColor(0xFFFFFF),
                   QColor(0x7A1F2B),        QColor(0x7A5C00), QColor(0xF6EEDD), QColor(0x1F5F7A)};
const Theme kNight{QStringLiteral("Night bench"),
                   QColor(0x1A1D1F),
                   QColor(0x232729),
                   QColor(0x2B2F31),
                   QColor(0x42484C),
                   QColor(0xE8E3D8),
                   QColor(0xA7ADB0),
                   QColor(0x9FADB5),
                   QColor(0xE08E60),
                   QColor(0x1A1D1F),
                   QColor(0xF2929B),
                   QColor(0xE2C158),
                   QColor(0x332E22),
                   QColor(0x74BCD9)};

ThemeName g_current = ThemeName::Paper;  // of the whole process, like the application's palette itself

QString g_family;
QString g_mono_family;

QString loadFont(const QString& path) {
  const auto families = QFontDatabase::applicationFontFamilies(QFontDatabase::addApplicationFont(path));
  return families.isEmpty() ? QString() : families.first();
}

void loadFonts() {
  if (!g_family.isEmpty()) return;
  initFontResources();
  g_mono_family = loadFont(QStringLiteral(":/fonts/B612Mono-Regular.otf"));
  g_family = loadFont(QStringLiteral(":/fonts/B612-Regular.otf"));
  loadFont(QStringLiteral(":/fonts/B612-Bold.otf"));
  // Where the mono cut is installed it can answer to the name of the text cut; then any sans reads better.
  const QFontMetrics metrics{QFont(g_family, 20)};
  if (g_family.isEmpty() || metrics.horizontalAdvance(QLatin1Char('i')) == metrics.horizontalAdvance(QLatin1Char('W')))
    g_family = QStringLiteral("Open Sans");
}

QPalette paletteOf(const Theme& t) {
  QPalette palette;
  palette.setColor(QPalette::Window, t.paper);
  palette.setColor(QPalette::WindowText, t.ink);
  palette.setColor(QPalette::Base, t.sheet);
  palette.setColor(QPalette::AlternateBase, t.paper);
  palette.setColor(QPalette::Text, t.ink);
  palette.setColor(QPalette::PlaceholderText, t.soft_ink);
  palette.setColor(QPalette::Button, t.sheet);
  palette.setColor(QPalette::ButtonText, t.ink);
  palette.setColor(QPalette::ToolTipBase, t.sheet);
  palette.setColor(QPalette::ToolTipText, t.ink);
  palette.setColor(QPalette::Highlight, t.focus);
  palette.setColor(QPalette::HighlightedText, t.sheet);
  palette.setColor(QPalette::Link, t.changed);
  for (const auto role : {QPalette::WindowText, QPalette::ButtonText})
    palette.setColor(QPalette::Disabled, role, t.soft_ink);
  palette.setColor(QPalette::Disabled, QPalette::Text, t.ink);  // what is locked is still to be read
  return palette;
}

// Fields take their ink from the palette: a colour given here would make what stands in an empty one half as strong.
QString styleSheetOf(const Theme& t) {
  QString sheet = QStringLiteral(R"(
    QToolTip { color: $ink; background: $sheet; border: 1px solid $line; padding: 4px; }
    QMenuBar, QMenu { background: $sheet; color: $ink; }
    QMenuBar::item:selected, QMenu::item:selected { background: $focus; color: $sheet; }
    QMenu::item:disabled { color: $soft; }
    QMenu { border: 1px solid $line; }
    QLineEdit, QPlainTextEdit, QSpinBox, QDoubleSpinBox, QComboBox {
      background: $sheet; border: 1px solid $line; border-radius: 3px; padding: 3px 6px; selection-background-color: $focus; }
    QLineEdit:focus, QPlainTextEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus, QComboBox:focus { border: 2px solid $focus; padding: 2px 5px; }
    QLineEdit:disabled, QPlainTextEdit:disabled, QSpinBox:disabled, QDoubleSpinBox:disabled, QComboBox:disabled { background: $paper; }
    QComboBox::drop-down { border: none; width: 20px; }
    QComboBox::down-arrow { image: none; width: 0; height: 0; border-left: 4px solid $sheet; border-right: 4px solid $sheet; border-top: 5px solid $soft; }
    QListWidget { background: $sheet; border: 1px solid $line; }
    QListWidget::item:selected { background: $focus; color: $sheet; }
    QComboBox QAbstractItemView { background: $sheet; color: $ink; border: 1px solid $line; selection-background-color: $focus; selection-color: $sheet; }
    QPushButton { background: $sheet; color: $ink; border: 1px solid $line; border-radius: 3px; padding: 5px 12px; }
    QPushButton:hover { border-color: $ink; }
    QPushButton:focus { border: 2px solid $focus; padding: 4px 11px; }
    QPushButton:disabled { color: $soft; }
    QPushButton:checked { border-bottom: 3px solid $changed; padding-bottom: 3px; font-weight: bold; }
    QPushButton#nextActionButton { background: $changed; color: $onchanged; border: none; font-weight: bold; padding: 8px 16px; }
    QPushButton#nextActionButton:focus { border: 2px solid $ink; }
    QPushButton#nextActionButton:disabled { background: $line; color: $ink; }
    QPushButton[flatLink="true"] { background: transparent; border: none; color: $focus; font-weight: bold; padding: 4px 8px; }
    QPushButton[flatLink="true"]:focus { border: 1px solid $focus; padding: 3px 7px; }
    QPushButton[flatLink="true"]:disabled { color: $soft; }
    QTableView::item { padding: 0 6px; border: none; }
    QTableView { background: $sheet; color: $ink; gridline-color: $line; border: 1px solid $line; selection-background-color: $focus; selection-color: $sheet; }
    QHeaderView::section { background: $paper; color: $soft; border: none; border-bottom: 1px solid $line; padding: 3px 6px; }
    QListView { background: transparent; border: none; }
    QListWidget#partsList { background: $sheet; border: 1px solid $line; }
    QListWidget#partsList::item:selected { background: $line; color: $ink; }
    QScrollArea { background: transparent; border: none; }
    QProgressBar { background: $paper; border: 1px solid $line; border-radius: 3px; text-align: center; color: $ink; max-height: 18px; }
    QProgressBar::chunk { background: $line; }
    QScrollBar:vertical { background: $paper; width: 10px; } QScrollBar::handle:vertical { background: $line; min-height: 24px; border-radius: 4px; }
    QScrollBar:horizontal { background: $paper; height: 10px; } QScrollBar::handle:horizontal { background: $line; min-width: 24px; border-radius: 4px; }
    QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
    QLabel[soft="true"] { color: $soft; }
    QLabel[accent="true"] { color: $changed; }
    QFrame[card="true"] { background: $sheet; border: 1px solid $line; border-radius: 4px; }
    QFrame[card="true"] QPushButton[flatLink="true"]:checked { border-bottom: 1px solid $focus; padding-bottom: 3px; }
    QTreeWidget { background: $sheet; border: 1px solid $line; }
    QTreeWidget::item { padding: 1px 4px; border: none; }
    QTreeWidget::item:selected { background: $focus; color: $sheet; }
  )");
  const std::pair<const char*, QColor> colours[] = {
      {"$sheet", t.sheet},   {"$paper", t.paper},          {"$line", t.line},       {"$ink", t.ink},
      {"$soft", t.soft_ink}, {"$onchanged", t.on_changed}, {"$changed", t.changed}, {"$focus", t.focus}};
  for (const auto& [name, colour] : colours) sheet.replace(QLatin1String(name), colour.name());
  return sheet;
}

/// The base style draws the frame of a box to tick darker than what is behind it: on the night bench nobody sees it.
/// And of all buttons it puts pictures on those of its own questions alone.
class Style final : public QProxyStyle {
 public:
  Style() : QProxyStyle(QStringLiteral("Fusion")) {}
  int styleHint(StyleHint hint, const QStyleOption* option, const QWidget* widget,
                QStyleHintReturn* result) const override {
    if (hint == SH_DialogButtonBox_ButtonsHaveIcons) return 0;
    return QProxyStyle::styleHint(hint, option, widget, result);
  }
  void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                     const QWidget* widget) const override {
    QProxyStyle::drawPrimitive(element, option, painter, widget);
    if (element != PE_IndicatorCheckBox) return;
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing, false);
    const bool is_usable = option->state.testFlag(State_Enabled);
    painter->setPen(is_usable ? theme().soft_ink : theme().line);
    painter->drawRect(option->rect.adjusted(0, 0, -1, -1));
    painter->restore();
  }
};

}  // namespace

const Theme& themeNamed(ThemeName name) { return name == ThemeName::Paper ? kPaper : kNight; }
const Theme& theme() { return themeNamed(g_current); }
ThemeName currentThemeName() { return g_current; }

const report::Palette& currentPalette() { return g_current == ThemeName::Night ? report::kNight : report::kPaper; }

void applyTheme(QApplication& application, ThemeName name) {
  applyColours(application, name);
  applyStyleSheet(application);
}

void applyColours(QApplication& application, ThemeName name) {
  loadFonts();
  g_current = name;
  application.setStyle(new Style);
  application.setPalette(paletteOf(theme()));
  application.setFont(textFont(TextSize::Normal));
}

void applyStyleSheet(QApplication& application) { application.setStyleSheet(styleSheetOf(theme())); }

QFont textFont(TextSize size, bool is_bold) {
  QFont font(g_family);
  const auto points = [size] {
    switch (size) {
      case TextSize::Small: return 8.5;
      case TextSize::Normal: return 9.5;
      case TextSize::Large: return 12.5;
      case TextSize::Huge: return 21.0;
    }
    return 9.5;
  };
  font.setPointSizeF(points());
  font.setBold(is_bold);
  return font;
}

QFont monoFont() {
  QFont font(g_mono_family);
  font.setPointSizeF(9);
  return font;
}

}  // namespace app
