#include "app/run_sheet/visit_cards.h"

#include <QPainter>

#include "app/shell/theme.h"

namespace app {
namespace {

constexpr int kCardHeight = 56;
constexpr int kGap = 8;

void drawCard(QPainter& painter, const VisitCard& card, const QRect& place) {
  const bool is_in_hand = card.state == VisitCard::State::InHand;
  painter.setPen(QPen(is_in_hand ? theme().changed : theme().line, is_in_hand ? 2 : 1));
  painter.setBrush(card.state == VisitCard::State::Done ? theme().paper : theme().sheet);
  painter.drawRoundedRect(place, 3, 3);
  painter.setFont(textFont(TextSize::Normal));
  painter.setPen(theme().soft_ink);
  painter.drawText(place.adjusted(10, 9, 0, 0), Qt::AlignLeft | Qt::AlignTop, card.clock);
  if (card.state == VisitCard::State::Done) {
    painter.setPen(QPen(theme().soft_ink, 2));
    const QPointF tick(place.left() + 14, place.bottom() - 14);
    painter.drawPolyline(QPolygonF{tick, tick + QPointF(4, 4), tick + QPointF(12, -6)});
  }
  const QRect words = place.adjusted(62, 8, -8, -8);
  painter.setPen(card.state == VisitCard::State::Done ? theme().soft_ink : theme().ink);
  painter.setFont(textFont(TextSize::Normal, is_in_hand));
  painter.drawText(words, Qt::AlignLeft | Qt::AlignTop,
                   painter.fontMetrics().elidedText(card.title, Qt::ElideRight, words.width()));
  painter.setPen(theme().soft_ink);
  painter.setFont(textFont(TextSize::Small));
  painter.drawText(words, Qt::AlignLeft | Qt::AlignBottom, card.words);
}

}  // namespace

void VisitCards::show(std::vector<VisitCard> cards) {
  cards_ = std::move(cards);
  setMinimumHeight(static_cast<int>(cards_.size()) * (kCardHeight + kGap));
  QStringList spoken;
  for (const VisitCard& card : cards_) spoken << card.title + QStringLiteral(", ") + card.words;
  setAccessibleName(spoken.join(QStringLiteral("; ")));
  update();
}

void VisitCards::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  for (std::size_t i = 0; i < cards_.size(); ++i)
    drawCard(painter, cards_[i], QRect(1, 1 + static_cast<int>(i) * (kCardHeight + kGap), width() - 3, kCardHeight));
}

}  // namespace app
