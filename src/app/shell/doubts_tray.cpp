#include "app/shell/doubts_tray.h"

#include <QAction>
#include <QHBoxLayout>
#include <QItemSelectionModel>
#include <QLabel>
#include <QListView>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>
#include <numbers>

#include "app/model/doubt_acts.h"
#include "app/shell/theme.h"
#include "app/shell/track.h"
#include "app/shell/usable.h"

namespace app {
namespace {

constexpr int kRowHeight = 44;

// Stop: filled octagon. Caution: open triangle. Note: dot.
void drawRank(QPainter& painter, core::DoubtRank rank, QPointF centre) {
  painter.setRenderHint(QPainter::Antialiasing);
  QPolygonF shape;
  switch (rank) {
    case core::DoubtRank::Stop:
      for (int i = 0; i < 8; ++i) {
        const double angle = (i + 0.5) * std::numbers::pi / 4;
        shape << centre + 7.5 * QPointF(std::cos(angle), std::sin(angle));
      }
      painter.setPen(Qt::NoPen);
      painter.setBrush(theme().stop);
      painter.drawPolygon(shape);
      break;
    case core::DoubtRank::Caution:
      painter.setPen(QPen(theme().caution, 1.8));
      painter.setBrush(Qt::NoBrush);
      painter.drawPolygon(QPolygonF{centre + QPointF(0, -7), centre + QPointF(7.5, 6), centre + QPointF(-7.5, 6)});
      break;
    case core::DoubtRank::Note:
      painter.setPen(Qt::NoPen);
      painter.setBrush(theme().soft_ink);
      painter.drawEllipse(centre, 3.5, 3.5);
      break;
  }
}

QColor rankColour(core::DoubtRank rank) {
  return rank == core::DoubtRank::Stop      ? theme().stop
         : rank == core::DoubtRank::Caution ? theme().caution
                                            : theme().soft_ink;
}

// As high as six doubts, and where the window is low no less than two: the rest scrolls.
class DoubtsList final : public QListView {
 public:
  using QListView::QListView;
  [[nodiscard]] QSize sizeHint() const override { return {200, heightOf(6)}; }
  [[nodiscard]] QSize minimumSizeHint() const override { return {200, heightOf(2)}; }

 private:
  [[nodiscard]] int heightOf(int most) const {
    return std::min(most, model() ? model()->rowCount() : 0) * kRowHeight + 6;
  }
};

QString actOf(const QModelIndex& doubt) { return actOfDoubt(doubt.data(DoubtsModel::IdRole).toString()); }

QString countWords(int count, const QString& one, const QString& many) { return count == 1 ? one : many.arg(count); }

}  // namespace

void DoubtDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
  painter->save();
  const auto rank = static_cast<core::DoubtRank>(index.data(DoubtsModel::RankRole).toInt());
  const QRect row = option.rect;
  if (option.state & QStyle::State_Selected) {
    painter->setPen(QPen(theme().focus, 1.5));
    painter->setBrush(theme().sheet);
    painter->drawRect(row.adjusted(4, 2, -5, -3));
  }
  drawRank(*painter, rank, QPointF(row.left() + 22, row.center().y()));
  painter->setFont(textFont(TextSize::Small, true));
  painter->setPen(rankColour(rank));
  painter->drawText(QRect(row.left() + 38, row.top(), 64, row.height()), Qt::AlignVCenter | Qt::AlignLeft,
                    QString::fromUtf8(core::doubtRankName(rank)));
  const QString accepted = index.data(DoubtsModel::AcceptedRole).toString();
  const QRect words = row.adjusted(102, 5, -14, -6);
  painter->setPen(accepted.isEmpty() ? theme().ink : theme().soft_ink);
  painter->setFont(textFont(TextSize::Normal));
  painter->drawText(words, Qt::AlignTop | Qt::AlignLeft,
                    painter->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, words.width()));
  painter->setPen(theme().soft_ink);
  painter->setFont(textFont(TextSize::Small));
  const QString second = accepted.isEmpty() ? index.data(DoubtsModel::RemedyRole).toString()
                                            : DoubtsTray::tr("Accepted: %1").arg(accepted);
  painter->drawText(words, Qt::AlignBottom | Qt::AlignLeft,
                    painter->fontMetrics().elidedText(second, Qt::ElideRight, words.width()));
  painter->restore();
}

QSize DoubtDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const { return {200, kRowHeight}; }

DoubtsTray::DoubtsTray(DoubtsModel& doubts, QWidget* parent)
    : QFrame(parent),
      doubts_(doubts),
      list_(new DoubtsList(this)),
      counts_(new QPushButton(this)),
      headline_(new QLabel(this)),
      explain_(new QPushButton(tr("Explain"), this)),
      show_(new QPushButton(this)),
      mend_(new QPushButton(this)),
      accept_(new QPushButton(tr("Accept with a reason"), this)) {
  setObjectName(QStringLiteral("doubtsTray"));
  list_->setObjectName(QStringLiteral("doubtsList"));
  list_->setAccessibleName(tr("Doubts, worst first"));
  list_->setModel(&doubts_);
  list_->setItemDelegate(new DoubtDelegate(list_));
  list_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Maximum);
  list_->setVisible(false);
  counts_->setObjectName(QStringLiteral("doubtsButton"));
  explain_->setObjectName(QStringLiteral("explainDoubtButton"));
  show_->setObjectName(QStringLiteral("showDoubtButton"));
  accept_->setObjectName(QStringLiteral("acceptDoubtButton"));
  mend_->setObjectName(QStringLiteral("mendDoubtButton"));
  for (QPushButton* button : {counts_, explain_, show_, mend_, accept_}) button->setProperty("flatLink", true);
  headline_->setObjectName(QStringLiteral("doubtHeadline"));
  headline_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  headline_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);

  auto* line = new QHBoxLayout;
  line->setContentsMargins(6, 0, 8, 0);
  line->addWidget(counts_);
  line->addWidget(headline_, 1);
  line->addStretch(0);
  line->addWidget(explain_);
  line->addWidget(show_);
  line->addWidget(mend_);
  line->addWidget(accept_);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 2, 0, 2);
  layout->setSpacing(0);
  layout->addWidget(list_);
  layout->addLayout(line);

  connect(counts_, &QPushButton::clicked, this, [this] { setOpen(!isOpen()); });
  connect(&doubts_, &QAbstractItemModel::modelReset, this, &DoubtsTray::refresh);
  connect(explain_, &QPushButton::clicked, this, [this] {
    Q_EMIT meaningRequested(chosen().data(DoubtsModel::IdRole).toString().section(QLatin1Char('/'), 0, 0));
  });
  connect(show_, &QPushButton::clicked, this, [this] {
    const QModelIndex index = chosen();
    Q_EMIT showRequested(static_cast<core::Place>(index.data(DoubtsModel::PlaceRole).toInt()),
                         index.data(DoubtsModel::CaseRole).toInt(), index.data(DoubtsModel::IdRole).toString());
  });
  connect(mend_, &QPushButton::clicked, this, [this] { Q_EMIT actRequested(actOf(chosen())); });
  connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &DoubtsTray::refreshActs);
  connect(accept_, &QPushButton::clicked, this, [this] {
    Q_EMIT acceptRequested(chosen().data(DoubtsModel::IdRole).toString(), chosen().data().toString());
  });
  refresh();
}

bool DoubtsTray::isOpen() const { return !list_->isHidden(); }

void DoubtsTray::setOpen(bool is_open) {
  list_->setVisible(is_open && doubts_.rowCount() > 0);
  if (isOpen()) list_->setCurrentIndex(doubts_.index(0));
  refresh();
}

QModelIndex DoubtsTray::chosen() const {
  return isOpen() && list_->currentIndex().isValid() ? list_->currentIndex() : doubts_.index(0);
}

void DoubtsTray::refresh() {
  setStyleSheet(QStringLiteral("#doubtsTray { background: %1; border-top: 1px solid %2; }")
                    .arg(theme().tray.name(), theme().line.name()));
  const int stops = doubts_.openCount(core::DoubtRank::Stop);
  const int cautions = doubts_.openCount(core::DoubtRank::Caution);
  const int notes = doubts_.openCount(core::DoubtRank::Note);
  counts_->setText(QStringLiteral("%1  %2 · %3 · %4")
                       .arg(isOpen() ? QStringLiteral("▾") : QStringLiteral("▴"),
                            countWords(stops, tr("1 stop"), tr("%1 stops")),
                            countWords(cautions, tr("1 caution"), tr("%1 cautions")),
                            countWords(notes, tr("1 note"), tr("%1 notes"))));
  counts_->setToolTip(tr("Everything that could make the claim wrong"));
  setUsable(*counts_, doubts_.rowCount() > 0 ? QString() : tr("There is no doubt yet"));
  showHeadline();
  headline_->setVisible(!isOpen());  // open, the list says it
  refreshActs();
  list_->updateGeometry();
}

// Where it is longer than its line the rest is told when the mouse rests on it, and in the list.
void DoubtsTray::showHeadline() {
  const QString whole = doubts_.headline();
  headline_->setText(headline_->fontMetrics().elidedText(whole, Qt::ElideRight, headline_->width()));
  headline_->setToolTip(whole);
}

void DoubtsTray::resizeEvent(QResizeEvent* event) {
  QFrame::resizeEvent(event);
  layout()->activate();
  showHeadline();
}

// Where to look, what to press, and accepting it: each by name.
void DoubtsTray::refreshActs() {
  const QModelIndex doubt = chosen();
  const QString none = doubt.isValid() ? QString() : tr("There is no doubt yet");
  for (QPushButton* button : {explain_, show_}) setUsable(*button, none);
  const bool is_accepted = !doubt.data(DoubtsModel::AcceptedRole).toString().isEmpty();
  setUsable(*accept_, is_accepted ? tr("It is accepted already") : none);
  const int place = doubt.data(DoubtsModel::PlaceRole).toInt();
  show_->setText(doubt.isValid() ? tr("Show: %1").arg(placeTitle(static_cast<core::Place>(place))) : tr("Show"));
  const QString id = actOf(doubt);
  const auto* act = id.isEmpty() ? nullptr : window()->findChild<QAction*>(id);
  mend_->setVisible(isOpen() && act && !is_accepted);  // closed, the line is the sentence's
  if (act) mend_->setText(act->text());
}

}  // namespace app
