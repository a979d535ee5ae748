#include "app/practice/claims_picture.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/model/qt_text.h"
#include "app/shell/theme.h"
#include "core/estimate/wording.h"

namespace app {

static constexpr int kNames = 110;
static constexpr int kRow = 32;

ClaimsPicture::ClaimsPicture(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("claimsPicture"));
  setAccessibleName(tr("what was true, beside what was claimed"));
  setMinimumHeight(sizeHint().height());
}

void ClaimsPicture::show(const session::PracticeOutcome& outcome) {
  outcome_ = outcome;
  update();
}

void ClaimsPicture::paintEvent(QPaintEvent*) {
  if (!outcome_) return;
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  double low = std::min({0.0, outcome_->truth_percent, outcome_->claim.lo});
  double high = std::max({0.0, outcome_->truth_percent, outcome_->claim.hi});
  if (outcome_->program) {
    low = std::min(low, outcome_->program->lo);
    high = std::max(high, outcome_->program->hi);
  }
  const double margin = std::max(0.5, 0.08 * (high - low));
  low -= margin;
  high += margin;
  const int room = width() - kNames - 12;
  const auto x = [&](double percent) { return kNames + room * (percent - low) / (high - low); };
  painter.setFont(textFont(TextSize::Small));
  painter.setPen(QPen(theme().line, 1));
  painter.drawLine(QPointF(x(0), 4), QPointF(x(0), 3 * kRow + 4));
  painter.setPen(theme().soft_ink);
  painter.drawText(QRectF(x(0) - 40, 3 * kRow + 6, 80, 18), Qt::AlignCenter, tr("0 %"));
  painter.drawText(QRectF(width() - 120, 3 * kRow + 6, 108, 18), Qt::AlignRight | Qt::AlignVCenter, tr("change, %"));
  const auto row = [&](int at, const QString& name, double percent, std::optional<std::pair<double, double>> ends,
                       const QColor& colour) {
    const double y = at * kRow + kRow / 2.0 + 4;
    painter.setPen(theme().ink);
    painter.drawText(QRectF(0, y - 12, kNames - 8, 24), Qt::AlignRight | Qt::AlignVCenter, name);
    painter.setPen(QPen(colour, 3));
    if (ends) painter.drawLine(QPointF(x(ends->first), y), QPointF(x(ends->second), y));
    painter.setBrush(colour);
    painter.drawEllipse(QPointF(x(percent), y), 5, 5);
    painter.setPen(theme().ink);
    const QString text = toQt(core::percentText(percent));
    const double wide = painter.fontMetrics().horizontalAdvance(text);
    const double right = (ends ? x(ends->second) : x(percent)) + 10;
    const double left = right + wide > width() ? (ends ? x(ends->first) : x(percent)) - 10 - wide : right;
    painter.drawText(QPointF(left, y + 4), text);
  };
  row(0, tr("true"), outcome_->truth_percent, std::nullopt, theme().ink);
  row(1, tr("you said"), outcome_->claim.percent, std::pair{outcome_->claim.lo, outcome_->claim.hi}, theme().changed);
  if (outcome_->program)
    row(2, tr("the program"), outcome_->program->percent, std::pair{outcome_->program->lo, outcome_->program->hi},
        theme().focus);
  painter.setPen(QPen(theme().ink, 1, Qt::DashLine));
  painter.drawLine(QPointF(x(outcome_->truth_percent), kRow), QPointF(x(outcome_->truth_percent), 3 * kRow + 4));
}

}  // namespace app
