#pragma once

#include <QKeySequence>
#include <QString>
#include <functional>
#include <vector>

namespace app {

class MainWindow;

/// One thing that a person can do from the menus or by key. Menus and the list of keys are made from the one table.
struct WindowAction {
  QString id;
  QString menu;
  QString text;
  QKeySequence shortcut;
  std::function<void()> run;
};

/// The table of all actions of the window. A friend of the window, so that its slots stay private.
class WindowActions {
 public:
  [[nodiscard]] static std::vector<WindowAction> of(MainWindow& window);
};

[[nodiscard]] std::vector<WindowAction> windowActions(MainWindow& window);

/// Makes the menu bar from the table; every QAction is named after its id.
void buildMenus(MainWindow& window, const std::vector<WindowAction>& actions);

/// The table as text for the help: "Ctrl+1  Question".
[[nodiscard]] QString keysText(const std::vector<WindowAction>& actions);

}  // namespace app
