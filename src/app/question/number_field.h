#pragma once

#include <QDoubleSpinBox>
#include <QSpinBox>

namespace app {

/// A number that is typed, with its unit; the arrow keys step. Saved when the number is typed, not at every digit.
template <class Spin, class Number>
Spin* numberField(QWidget* parent, const char* name, Number low, Number high, const QString& suffix) {
  auto* box = new Spin(parent);
  box->setObjectName(QLatin1String(name));
  box->setAccessibleName(suffix.trimmed());
  box->setRange(low, high);
  box->setSuffix(suffix);
  box->setButtonSymbols(QAbstractSpinBox::NoButtons);
  box->setKeyboardTracking(false);
  return box;
}

}  // namespace app
