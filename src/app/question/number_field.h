#pragma once

#include <QDoubleSpinBox>
#include <QSpinBox>

namespace app {

/// Numbers look and read alike in the window, the report and on the command line, whatever the person's language. To be
/// called as soon as the application object exists.
void keepPlainNumbers();

/// A number with decimals, shown without zeros behind them: a comma that is typed parts them as a point does, and
/// nothing parts thousands.
class DecimalBox : public QDoubleSpinBox {
 public:
  using QDoubleSpinBox::QDoubleSpinBox;

 protected:
  QValidator::State validate(QString& text, int& cursor) const override;
  [[nodiscard]] QString textFromValue(double value) const override;
};

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
