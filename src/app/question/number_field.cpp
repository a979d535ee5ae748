#include "app/question/number_field.h"

#include <QLocale>

#include "core/values/number_text.h"

namespace app {

void keepPlainNumbers() {
  core::keepPlainLocale();
  QLocale::setDefault(QLocale::c());
}

QValidator::State DecimalBox::validate(QString& text, int& cursor) const {
  // The words before and after the number may hold a comma of their own.
  const qsizetype first = text.startsWith(prefix()) ? prefix().size() : 0;
  const qsizetype last = text.endsWith(suffix()) ? text.size() - suffix().size() : text.size();
  for (qsizetype i = first; i < last; ++i)
    if (text[i] == QLatin1Char(',')) text[i] = QLatin1Char('.');
  return QDoubleSpinBox::validate(text, cursor);
}

QString DecimalBox::textFromValue(double value) const {
  QString text = QDoubleSpinBox::textFromValue(value);
  if (!text.contains(QLatin1Char('.'))) return text;
  while (text.endsWith(QLatin1Char('0'))) text.chop(1);
  if (text.endsWith(QLatin1Char('.'))) text.chop(1);
  return text;
}

}  // namespace app
