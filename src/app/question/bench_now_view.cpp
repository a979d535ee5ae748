#include "app/question/bench_now_view.h"

#include <QDateTime>
#include <QGridLayout>
#include <QLabel>
#include <QVBoxLayout>

#include "app/model/question_answers.h"
#include "app/shell/theme.h"

namespace app {

BenchNowView::BenchNowView(QWidget* parent)
    : QWidget(parent), title_(new QLabel(this)), why_(new QLabel(this)), parts_(new QGridLayout) {
  setObjectName(QStringLiteral("benchNow"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  title_->setFont(textFont(TextSize::Normal, true));
  column->addWidget(title_);
  why_->setObjectName(QStringLiteral("benchNowLabel"));
  why_->setProperty("soft", true);
  why_->setWordWrap(true);
  column->addWidget(why_);
  parts_->setColumnStretch(1, 1);
  parts_->setHorizontalSpacing(12);
  parts_->setVerticalSpacing(2);
  column->addLayout(parts_);
}

void BenchNowView::clear() {
  while (QLayoutItem* item = parts_->takeAt(0)) {
    item->widget()->deleteLater();
    delete item;
  }
}

void BenchNowView::show(const core::Capture& capture, const QString& how) {
  const auto parts = partsOf(capture);
  if (parts.empty()) return showNothing(tr("Nothing of it could be read."));
  clear();
  why_->setText(how);
  why_->setVisible(!how.isEmpty());
  const QDateTime read = QDateTime::fromMSecsSinceEpoch(capture.taken_ms);
  title_->setText(tr("This bench at %1").arg(read.toString(QStringLiteral("HH:mm"))));
  int row = 0;
  for (const auto& [name, text] : parts) {
    auto* part = new QLabel(name, this);
    part->setProperty("soft", true);
    auto* value = new QLabel(text, this);
    value->setWordWrap(true);
    value->setTextFormat(Qt::PlainText);
    parts_->addWidget(part, row, 0, Qt::AlignTop);
    parts_->addWidget(value, row++, 1);
  }
}

void BenchNowView::showNothing(const QString& why) {
  clear();
  title_->setText(tr("This bench"));
  why_->setText(why);
  why_->show();
}

}  // namespace app
