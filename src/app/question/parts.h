#pragma once

#include <QString>

class QHBoxLayout;
class QLabel;
class QPushButton;
class QWidget;

namespace app {

/// A button at the end of a line.
QPushButton* addButton(QHBoxLayout* line, const QString& text, const char* name, QWidget* parent);

/// A sentence in soft ink, as many lines as it takes.
[[nodiscard]] QLabel* softLabel(const char* name, QWidget* parent);

}  // namespace app
