#pragma once

#include <QColor>
#include <QFont>
#include <QString>

class QApplication;

namespace report {
struct Palette;
}

namespace app {

/// The one table of colours. Gain and loss have none of their own: they are told by side, sign and word.
struct Theme {
  QString name;
  QColor paper;  ///< behind everything
  QColor sheet;  ///< cards, fields, claim line
  QColor tray;   ///< the doubts tray
  QColor line;
  QColor ink;
  QColor soft_ink;
  QColor baseline;    ///< marks and numbers of the baseline level
  QColor changed;     ///< copper: the changed level, and the one accent
  QColor on_changed;  ///< text on copper
  QColor stop;
  QColor caution;
  QColor caution_sheet;
  QColor focus;
};

enum class ThemeName { Paper, Night };

/// The theme in force. Set once at start and when a person switches; read while painting.
[[nodiscard]] const Theme& theme();
/// Both tables, for the contrast test.
[[nodiscard]] const Theme& themeNamed(ThemeName name);
/// Puts colours, fonts and style sheet on the application.
void applyTheme(QApplication& application, ThemeName name);
/// The same in two steps. A widget with a style sheet is styled anew whenever it is put into another: a window that is
/// built between the two stands in half the time.
void applyColours(QApplication& application, ThemeName name);
void applyStyleSheet(QApplication& application);
[[nodiscard]] ThemeName currentThemeName();
/// The report's colours that belong to the theme in force.
[[nodiscard]] const report::Palette& currentPalette();

/// Text sizes, in points at 100 %.
enum class TextSize { Small, Normal, Large, Huge };
[[nodiscard]] QFont textFont(TextSize size, bool is_bold = false);
[[nodiscard]] QFont monoFont();

}  // namespace app
