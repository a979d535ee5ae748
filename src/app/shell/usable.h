#pragma once

#include <QObject>
#include <QWidget>

namespace app {

/// Enables a control, or disables it and keeps the reason: a person who rests the pointer on it is told.
/// Shapes  `why_not` is empty where it can be used
void setUsable(QWidget& control, const QString& why_not);

/// Why the controls on this page or in this group that are disabled without a reason of their own are so.
void setReasonOfAll(QWidget& group, const QString& why_not);

/// Why a control cannot be used: its own reason, or that of what it stands in. Empty where nobody has said one.
[[nodiscard]] QString whyNotUsable(const QWidget& control);

/// Shows, where a tool tip is asked for on a disabled control, why it is so instead of what it does.
class ReasonTips final : public QObject {
 public:
  using QObject::QObject;
  bool eventFilter(QObject* target, QEvent* event) override;
};

}  // namespace app
