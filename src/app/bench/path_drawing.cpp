#include "app/bench/path_drawing.h"

#include <QPainter>
#include <algorithm>
#include <numeric>

#include "app/shell/theme.h"

namespace app {
namespace {

constexpr int kHopHeight = 84;
constexpr int kTitleHeight = 20;
constexpr int kStationHeight = 34;
constexpr int kNarrowestHop = 56;  // "Gen 4 x16"

// Stations take what their names need. Where that is too much, the longest names go onto two lines first.
std::vector<int> stationWidths(const QStringList& names, int room, const QFontMetrics& metrics) {
  std::vector<int> widths;
  for (int widest = 240; widest >= 40; widest -= 4) {
    widths.clear();
    for (const QString& name : names) widths.push_back(std::min(metrics.horizontalAdvance(name) + 10, widest));
    if (std::accumulate(widths.begin(), widths.end(), 0) <= room) break;
  }
  return widths;
}

}  // namespace

PathDrawing::PathDrawing(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("pathDrawing"));
  setAccessibleName(tr("The way from the processor to the device"));
}

void PathDrawing::show(std::vector<PathRow> rows) {
  rows_ = std::move(rows);
  QStringList words;
  for (const PathRow& row : rows_) {
    QString text = row.title + QStringLiteral(": ");
    for (std::size_t i = 0; i < row.hops.size(); ++i)
      text += QStringLiteral("%1, %2 %3 (%4), ")
                  .arg(row.stations[static_cast<int>(i)], row.hops[i].grade, row.hops[i].rate, row.hops[i].where);
    words << text + row.stations.last();
  }
  setAccessibleDescription(words.join(QStringLiteral("; ")));
  updateGeometry();
  update();
}

QSize PathDrawing::sizeHint() const { return {320, static_cast<int>(rows_.size()) * kHopHeight}; }

void PathDrawing::paintHop(QPainter& painter, const PathRow::Hop& hop, const QRect& place, const QColor& colour) const {
  const int middle = place.top() + kStationHeight / 2;
  // A wide line is a wide link; the narrowest hop of a longer way is drawn as the neck that it is.
  QPen pen(colour, hop.is_narrowest ? 3 : 7, hop.is_virtual ? Qt::DotLine : Qt::SolidLine, Qt::FlatCap);
  painter.setPen(pen);
  painter.drawLine(place.left(), middle, place.right(), middle);
  painter.setPen(theme().ink);
  painter.setFont(textFont(TextSize::Small, true));
  const QFontMetrics metrics = painter.fontMetrics();
  painter.drawText(QRect(place.left(), place.top() - 5, place.width(), 16), Qt::AlignCenter,
                   metrics.elidedText(hop.grade, Qt::ElideRight, place.width()));
  painter.setFont(textFont(TextSize::Small));
  painter.drawText(QRect(place.left(), middle + 6, place.width(), 16), Qt::AlignCenter,
                   painter.fontMetrics().elidedText(hop.rate, Qt::ElideRight, place.width()));
  painter.setPen(theme().soft_ink);
  painter.drawText(QRect(place.left() - 24, middle + 22, place.width() + 48, 16), Qt::AlignCenter,
                   painter.fontMetrics().elidedText(hop.where, Qt::ElideRight, place.width() + 46));
}

void PathDrawing::paintRow(QPainter& painter, const PathRow& row, int top) const {
  const QColor colour = row.configuration == core::ConfigurationId::Baseline ? theme().baseline : theme().changed;
  painter.setPen(colour);
  painter.setFont(textFont(TextSize::Small, true));
  painter.drawText(QRect(0, top, width(), kTitleHeight), Qt::AlignLeft | Qt::AlignTop, row.title);
  const auto stations = static_cast<int>(row.stations.size());
  const auto hops = static_cast<int>(row.hops.size());
  if (hops == 0) return;
  painter.setFont(textFont(TextSize::Small));
  const std::vector<int> widths =
      stationWidths(row.stations, width() - 2 - hops * kNarrowestHop, painter.fontMetrics());
  const int taken = std::accumulate(widths.begin(), widths.end(), 0);
  const int hop_width = std::clamp((width() - taken - 2) / hops, kNarrowestHop, 220);
  int x = 1;
  const int y = top + kTitleHeight + 2;
  for (int i = 0; i < stations; ++i) {
    const QRect box(x, y, widths[static_cast<std::size_t>(i)], kStationHeight);
    painter.setPen(QPen(theme().line, 1));
    painter.setBrush(theme().sheet);
    painter.drawRoundedRect(box, 3, 3);
    painter.setPen(theme().ink);
    painter.setFont(textFont(TextSize::Small));
    painter.drawText(box.adjusted(3, 0, -3, 0), Qt::AlignCenter | Qt::TextWordWrap, row.stations[i]);
    x += box.width();
    if (i < hops)
      paintHop(painter, row.hops[static_cast<std::size_t>(i)], QRect(x, y, hop_width, kStationHeight), colour);
    x += hop_width;
  }
}

void PathDrawing::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  for (std::size_t i = 0; i < rows_.size(); ++i) paintRow(painter, rows_[i], static_cast<int>(i) * kHopHeight);
}

}  // namespace app
