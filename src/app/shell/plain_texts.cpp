#include "app/shell/plain_texts.h"

#include <QApplication>
#include <QEvent>
#include <QLabel>

namespace app {

void PlainTexts::install() {
  static auto* filter = new PlainTexts(qApp);
  qApp->installEventFilter(filter);
}

// Tooltips and the texts of message boxes are labels of Qt's own; all are polished before they are first seen.
bool PlainTexts::eventFilter(QObject* object, QEvent* event) {
  if (event->type() == QEvent::Polish)
    if (auto* label = qobject_cast<QLabel*>(object); label && label->textFormat() == Qt::AutoText)
      label->setTextFormat(Qt::PlainText);
  return QObject::eventFilter(object, event);
}

}  // namespace app
