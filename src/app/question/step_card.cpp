#include "app/question/step_card.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/shell/theme.h"

namespace app {

StepCard::StepCard(int number, const QString& question, QWidget* parent)
    : QFrame(parent),
      answer_(new QLabel(this)),
      change_(new QPushButton(tr("Change"), this)),
      fields_(new QWidget(this)),
      body_(new QVBoxLayout(fields_)) {
  setObjectName(QStringLiteral("step%1Card").arg(number));
  setProperty("card", true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 6, 12, 6);
  column->setSpacing(6);
  auto* head = new QHBoxLayout;
  head->setSpacing(12);
  auto* place = new QLabel(QStringLiteral("%1").arg(number), this);
  place->setFont(textFont(TextSize::Large, true));
  place->setProperty("accent", true);
  auto* texts = new QVBoxLayout;
  texts->setSpacing(0);
  auto* asked = new QLabel(question, this);
  asked->setProperty("soft", true);
  answer_->setFont(textFont(TextSize::Normal, true));
  answer_->setObjectName(QStringLiteral("step%1Answer").arg(number));
  answer_->setTextFormat(Qt::PlainText);
  answer_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  texts->addWidget(asked);
  texts->addWidget(answer_);
  change_->setObjectName(QStringLiteral("step%1Button").arg(number));
  change_->setAccessibleName(question);
  change_->setProperty("flatLink", true);
  head->addWidget(place, 0, Qt::AlignTop);
  head->addLayout(texts, 1);
  head->addWidget(change_, 0, Qt::AlignTop);
  column->addLayout(head);
  body_->setContentsMargins(0, 0, 0, 4);
  body_->setSpacing(6);
  fields_->hide();
  column->addWidget(fields_, 1);
  connect(change_, &QPushButton::clicked, this, &StepCard::openRequested);
}

void StepCard::setAnswer(const QString& sentence) {
  sentence_ = sentence.left(1).toUpper() + sentence.mid(1);
  showAnswer();
}

// Where it is longer than the card, the rest is told when the mouse rests on it.
void StepCard::showAnswer() {
  const QString shown = answer_->fontMetrics().elidedText(sentence_, Qt::ElideRight, answer_->width());
  answer_->setText(shown);
  answer_->setToolTip(shown == sentence_ ? QString() : sentence_);
}

void StepCard::resizeEvent(QResizeEvent* event) {
  QFrame::resizeEvent(event);
  layout()->activate();
  showAnswer();
}

void StepCard::setOpen(bool is_open) {
  is_open_ = is_open;
  fields_->setVisible(is_open);
  answer_->setVisible(!is_open);
  change_->setVisible(!is_open);
  if (!is_open && layout()) {
    layout()->activate();
    showAnswer();
  }
}

void StepCard::setCanEdit(bool can_edit) { change_->setText(can_edit ? tr("Change") : tr("Show")); }

void StepCard::mousePressEvent(QMouseEvent* event) {
  if (!is_open_) Q_EMIT openRequested();
  QFrame::mousePressEvent(event);
}

Fold::Fold(const QString& title, const QString& name, QWidget* parent)
    : QWidget(parent),
      button_(new QPushButton(title, this)),
      fields_(new QWidget(this)),
      body_(new QVBoxLayout(fields_)) {
  setObjectName(name);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  button_->setObjectName(name + QStringLiteral("Button"));
  button_->setCheckable(true);
  button_->setProperty("flatLink", true);
  body_->setContentsMargins(0, 0, 0, 0);
  body_->setSpacing(6);
  fields_->hide();
  column->addWidget(button_, 0, Qt::AlignLeft);
  column->addWidget(fields_, 1);
  connect(button_, &QPushButton::toggled, fields_, &QWidget::setVisible);
}

void Fold::setOpen(bool is_open) { button_->setChecked(is_open); }

bool Fold::isOpen() const { return button_->isChecked(); }

void reveal(QWidget* widget) {
  for (QWidget* one = widget; one; one = one->parentWidget()) {
    if (auto* fold = qobject_cast<Fold*>(one)) fold->setOpen(true);
    if (auto* card = qobject_cast<StepCard*>(one); card && !card->isOpen()) Q_EMIT card->openRequested();
  }
}

}  // namespace app
