#include "app/shell/usable.h"

#include <QHelpEvent>
#include <QToolTip>
#include <QVariant>

namespace app {
namespace {

constexpr const char* kOwnReason = "why_not";
constexpr const char* kReasonOfAll = "why_none";

}  // namespace

void setUsable(QWidget& control, const QString& why_not) {
  control.setEnabled(why_not.isEmpty());
  control.setProperty(kOwnReason, why_not);
}

void setReasonOfAll(QWidget& group, const QString& why_not) { group.setProperty(kReasonOfAll, why_not); }

QString whyNotUsable(const QWidget& control) {
  for (const QWidget* at = &control; at; at = at->parentWidget())
    for (const char* reason : {kOwnReason, kReasonOfAll})
      if (const QString said = at->property(reason).toString(); !said.isEmpty()) return said;
  return {};
}

bool ReasonTips::eventFilter(QObject* target, QEvent* event) {
  if (event->type() != QEvent::ToolTip) return false;
  const auto* control = qobject_cast<QWidget*>(target);
  if (!control || control->isEnabled()) return false;
  const QString why_not = whyNotUsable(*control);
  if (why_not.isEmpty()) return false;
  QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), why_not);
  return true;
}

}  // namespace app
