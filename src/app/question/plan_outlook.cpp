#include "app/question/plan_outlook.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/question/parts.h"
#include "app/question/planning_chart.h"
#include "app/shell/theme.h"
#include "core/study/terms.h"

namespace app {
namespace {

QString sentence(const QString& text) { return boundPercents(text.left(1).toUpper() + text.mid(1)) + QLatin1Char('.'); }

}  // namespace

PlanOutlook::PlanOutlook(QWidget* parent)
    : QWidget(parent),
      chart_(new PlanningChart(this)),
      noise_(softLabel("noiseLabel", this)),
      current_(softLabel("planLabel", this)),
      chances_(softLabel("chancesLabel", this)),
      proposed_(softLabel("proposedPlanLabel", this)),
      take_(new QPushButton(tr("Take it"), this)),
      prepare_title_(new QLabel(tr("Before the first pass"), this)),
      prepare_(softLabel("prepareLabel", this)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  auto* title = new QLabel(tr("What an hour at this bench buys"), this);
  title->setFont(textFont(TextSize::Large, true));
  current_->setFont(textFont(TextSize::Normal, true));
  current_->setProperty("soft", false);
  current_->setToolTip(toQt(core::termsText("round", "visit", "pass", "flip")));
  take_->setObjectName(QStringLiteral("takeProposedButton"));
  auto* proposal = new QHBoxLayout;
  proposal->addWidget(proposed_, 1);
  proposal->addWidget(take_, 0, Qt::AlignTop);
  column->addWidget(title);
  column->addWidget(noise_);
  column->addWidget(chart_, 1);
  column->addWidget(current_);
  column->addWidget(chances_);
  column->addLayout(proposal);
  prepare_title_->setFont(textFont(TextSize::Normal, true));
  column->addWidget(prepare_title_);
  column->addWidget(prepare_);
  connect(chart_, &PlanningChart::chosen, this, &PlanOutlook::chosen);
  connect(take_, &QPushButton::clicked, this, [this] {
    if (proposed_plan_) Q_EMIT chosen(*proposed_plan_);
  });
}

void PlanOutlook::load(const PlanningView& view, bool can_edit) {
  proposed_plan_ = view.proposed;
  noise_->setText(boundPercents(view.noise));
  const QString end =
      view.current_end.isEmpty() ? QString() : tr(" Begun now, it is done at %1.").arg(view.current_end);
  current_->setText(sentence(view.current_text) + end);
  const QString price = view.look_price.isEmpty() ? QString() : QLatin1Char(' ') + sentence(view.look_price);
  chances_->setText(boundPercents(view.current_chances + price));
  proposed_->setText(
      boundPercents(view.proposed ? tr("Cheapest that is enough: %1.").arg(view.proposed_text) : view.proposed_text));
  if (!view.spread_offer.isEmpty())
    proposed_->setText(proposed_->text() + QLatin1Char(' ') + sentence(view.spread_offer));
  take_->setVisible(view.proposed.has_value() && can_edit);
  for (QLabel* label : {prepare_title_, prepare_}) label->setVisible(!view.preparations.isEmpty());
  QStringList lines;
  for (const QString& one : view.preparations) lines << QStringLiteral("· ") + one;
  prepare_->setText(lines.join(QLatin1Char('\n')));
  chart_->setChoosable(can_edit);
  chart_->show(view);
}

}  // namespace app
