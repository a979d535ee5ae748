#include "app/question/plan_outlook.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/question/planning_chart.h"
#include "app/shell/theme.h"

namespace app {
namespace {

QLabel* sentence(const char* name, QWidget* parent) {
  auto* label = new QLabel(parent);
  label->setObjectName(QLatin1String(name));
  label->setWordWrap(true);
  return label;
}

}  // namespace

PlanOutlook::PlanOutlook(QWidget* parent)
    : QWidget(parent),
      chart_(new PlanningChart(this)),
      noise_(sentence("noiseLabel", this)),
      current_(sentence("planLabel", this)),
      chances_(sentence("chancesLabel", this)),
      proposed_(sentence("proposedPlanLabel", this)),
      take_(new QPushButton(tr("Take it"), this)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  auto* title = new QLabel(tr("What an hour at this bench buys"), this);
  title->setFont(textFont(TextSize::Large, true));
  current_->setFont(textFont(TextSize::Normal, true));
  for (QLabel* label : {noise_, chances_, proposed_}) label->setProperty("soft", true);
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
  connect(chart_, &PlanningChart::chosen, this, &PlanOutlook::chosen);
  connect(take_, &QPushButton::clicked, this, [this] {
    if (view_.proposed) Q_EMIT chosen(*view_.proposed);
  });
}

void PlanOutlook::load(const PlanningView& view, bool can_edit) {
  view_ = view;
  noise_->setText(view.noise);
  current_->setText(view.current_text + QLatin1Char('.'));
  chances_->setText(view.current_chances);
  proposed_->setText(view.proposed ? tr("Cheapest that is enough: %1.").arg(view.proposed_text) : view.proposed_text);
  take_->setVisible(view.proposed.has_value() && can_edit);
  chart_->setChoosable(can_edit);
  chart_->show(view);
}

}  // namespace app
