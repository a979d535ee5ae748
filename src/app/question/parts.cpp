#include "app/question/parts.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace app {

QPushButton* addButton(QHBoxLayout* line, const QString& text, const char* name, QWidget* parent) {
  auto* made = new QPushButton(text, parent);
  made->setObjectName(QLatin1String(name));
  line->addWidget(made);
  return made;
}

QLabel* softLabel(const char* name, QWidget* parent) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setProperty("soft", true);
  label->setWordWrap(true);
  return label;
}

}  // namespace app
