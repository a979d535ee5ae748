#include "app/findings/lever_chart.h"

#include <QPainter>
#include <algorithm>

#include "app/shell/theme.h"
#include "core/findings/lever_axis.h"

namespace app {
namespace {

constexpr int kLeverHeight = 66;
constexpr int kAboveVerdict = 24;  // the change stands there
constexpr int kDenseHeight = 40;   // a title and a verdict of one line each
constexpr int kRoomyRows = 24;     // of more rows than these a person compares beams, and reads one by one beside them
constexpr int kTitleWidth = 178;
constexpr int kVerdictWidth = 228;

void drawZones(QPainter& painter, const LeverScale& scale, const LeverModel& model, const LeverRow& lever,
               const QRect& row) {
  painter.setPen(QPen(theme().line, 1));
  for (double tick = model.axisLow(); tick <= model.axisHigh() + model.axisStep() / 2; tick += model.axisStep())
    painter.drawLine(QPointF(scale.x(tick), row.top()), QPointF(scale.x(tick), row.bottom() + 1));
  if (lever.threshold) {
    QColor hatch = theme().soft_ink;
    hatch.setAlpha(90);
    const auto inside = [&](double percent) { return scale.x(std::clamp(percent, model.axisLow(), model.axisHigh())); };
    painter.fillRect(QRectF(QPointF(inside(lever.threshold->loss_percent), row.top()),
                            QPointF(inside(lever.threshold->gain_percent), row.bottom() + 1)),
                     QBrush(hatch, Qt::BDiagPattern));
  }
  painter.setPen(QPen(theme().baseline, 1.5));
  painter.drawLine(QPointF(scale.x(0), row.top()), QPointF(scale.x(0), row.bottom() + 1));
}

void drawLever(QPainter& painter, const LeverScale& scale, const LeverRow& lever, const QRect& row) {
  const double middle = row.center().y() - 2;
  const auto inside = [&](double percent) {
    return std::clamp(scale.x(percent), static_cast<double>(scale.left), static_cast<double>(scale.right));
  };
  painter.setRenderHint(QPainter::Antialiasing);
  if (lever.spread_percent > 0) {
    painter.setPen(QPen(theme().soft_ink, 1.6, Qt::DotLine));
    painter.drawLine(QPointF(inside(-lever.spread_percent), middle - 9),
                     QPointF(inside(lever.spread_percent), middle - 9));
  }
  QColor copper = theme().changed;
  painter.setPen(Qt::NoPen);
  painter.setBrush(copper);
  painter.drawRect(QRectF(QPointF(inside(std::min(0.0, *lever.percent)), middle - 2),
                          QPointF(inside(std::max(0.0, *lever.percent)), middle + 2)));
  if (lever.interval) {
    copper.setAlpha(lever.is_counted ? 225 : 110);  // a marked verdict is drawn lighter, and says so in words
    painter.setBrush(copper);
    const QRectF box(QPointF(inside(lever.interval->lo), middle - 6), QPointF(inside(lever.interval->hi), middle + 6));
    painter.drawRoundedRect(box.width() < 3 ? box.adjusted(-1.5, 0, 1.5, 0) : box, 2, 2);
    painter.setPen(QPen(theme().sheet, 2));
    painter.drawLine(QPointF(inside(*lever.percent), middle - 6), QPointF(inside(*lever.percent), middle + 6));
  }
  painter.setPen(Qt::NoPen);
  painter.setBrush(theme().baseline);
  const QPointF top(scale.x(0), middle + 4);
  painter.drawPolygon(QPolygonF{top, top + QPointF(6, 10), top + QPointF(-6, 10)});
}

void drawWords(QPainter& painter, const LeverRow& lever, const QRect& row) {
  const bool is_dense = row.height() < kLeverHeight;
  const int above = is_dense ? 2 : 12;
  const QRect left = QRect(row.left() + 12, row.top() + above, kTitleWidth - 18, row.height() - 2 * above - 4);
  const QRect right = QRect(row.right() - kVerdictWidth + 8, row.top() + (is_dense ? 2 : 6), kVerdictWidth - 16,
                            row.height() - (is_dense ? 4 : 8));
  const auto draw = [&](const QRect& place, Qt::Alignment side, const QString& text, const QFont& font,
                        const QColor& colour) {
    painter.setFont(font);
    painter.setPen(colour);
    painter.drawText(place, Qt::AlignLeft | side,
                     painter.fontMetrics().elidedText(text, Qt::ElideRight, place.width()));
  };
  draw(left, Qt::AlignTop, lever.title, textFont(TextSize::Normal, !lever.case_index), theme().ink);
  draw(left, Qt::AlignBottom, lever.remark.isEmpty() ? lever.subtitle : QStringLiteral("▸ ") + lever.remark,
       textFont(TextSize::Small), lever.remark.isEmpty() ? theme().soft_ink : theme().ink);
  draw(right, Qt::AlignTop, lever.change, textFont(TextSize::Normal, true), theme().ink);
  const QColor verdict_ink = lever.is_counted ? theme().ink : theme().soft_ink;
  if (is_dense) return draw(right, Qt::AlignBottom, lever.verdict, textFont(TextSize::Small), verdict_ink);
  painter.setFont(textFont(TextSize::Small));
  painter.setPen(verdict_ink);
  painter.drawText(right.adjusted(0, kAboveVerdict - 6, 0, 0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                   lever.verdict);
}

// A verdict with all of its marks may take four small lines.
int heightOf(const LeverRow& lever) {
  const QRect room(0, 0, kVerdictWidth - 16, QWIDGETSIZE_MAX);
  const QRect verdict = QFontMetrics(textFont(TextSize::Small)).boundingRect(room, Qt::TextWordWrap, lever.verdict);
  return std::max(kLeverHeight, kAboveVerdict + verdict.height() + 10);
}

}  // namespace

LeverScale LeverScale::of(const LeverModel& model, int width) {
  return {model.axisLow(), model.axisHigh(), kTitleWidth + 8, std::max(kTitleWidth + 60, width - kVerdictWidth - 8)};
}

void LeverDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
  const auto lever = index.data(LeverModel::RowRole).value<LeverRow>();
  LeverScale scale = LeverScale::of(model_, option.rect.width());
  scale.left += option.rect.left();
  scale.right += option.rect.left();
  painter->save();
  if (option.state & QStyle::State_Selected) {
    painter->setPen(QPen(theme().focus, 1.5));
    painter->setBrush(theme().sheet);
    painter->drawRoundedRect(option.rect.adjusted(2, 1, -3, -2), 3, 3);
  }
  drawZones(*painter, scale, model_, lever, option.rect);
  if (lever.percent) drawLever(*painter, scale, lever, option.rect);
  drawWords(*painter, lever, option.rect);
  if (!lever.case_index) {
    painter->setPen(QPen(theme().line, 1));
    painter->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
  }
  painter->restore();
}

QSize LeverDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const {
  const LeverRow& lever = model_.row(index.row());
  return {600, model_.rowCount() > kRoomyRows && lever.case_index ? kDenseHeight : heightOf(lever)};
}

LeverAxis::LeverAxis(const LeverModel& model, QWidget* parent) : QWidget(parent), model_(model) {
  setFixedHeight(22);
  connect(&model, &QAbstractItemModel::modelReset, this, [this] { update(); });
}

void LeverAxis::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  const LeverScale scale = LeverScale::of(model_, width());
  painter.setFont(textFont(TextSize::Small));
  painter.setPen(theme().soft_ink);
  // Where they would run into each other every other one is written, 0 among them.
  constexpr int kRoom = 64;
  const bool is_tight = scale.x(model_.axisStep()) - scale.x(0) < kRoom;
  for (double tick = model_.axisLow(); tick <= model_.axisHigh() + model_.axisStep() / 2; tick += model_.axisStep()) {
    if (is_tight && std::lround(tick / model_.axisStep()) % 2 != 0) continue;
    painter.drawText(QRectF(scale.x(tick) - 40, 0, 80, height()), Qt::AlignCenter, toQt(core::tickText(tick)));
  }
}

}  // namespace app
