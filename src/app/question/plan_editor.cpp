#include "app/question/plan_editor.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/question/number_field.h"
#include "app/question/parts.h"
#include "app/question/step_card.h"
#include "app/shell/theme.h"

namespace app {
namespace {

// The entry of the order box that is more than an order.
constexpr int kOneWay = 3;

// The entry of the looks box: one look, at the end, or up to five.
int looksIndex(const core::Plan& plan) { return std::clamp(static_cast<int>(plan.looks.size()) - 1, 0, 4); }

}  // namespace

PlanEditor::PlanEditor(QWidget* parent) : QWidget(parent) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  minutes_ = numberField<DecimalBox>(this, "budgetSpin", 1.0, 14400.0, tr(" min"));
  minutes_->setDecimals(0);
  minutes_->setAccessibleName(tr("minutes at the bench"));
  minutes_->setToolTip(tr("The plan that sees the smallest change within that time is taken"));
  auto* time = new QHBoxLayout;
  auto* label = new QLabel(tr("at most"), this);
  label->setBuddy(minutes_);
  time->addWidget(label);
  time->addWidget(minutes_);
  for (const auto& [text, minutes] :
       {std::pair{tr("10 min"), 10.0}, {tr("1 hour"), 60.0}, {tr("an afternoon"), 240.0}, {tr("overnight"), 720.0}}) {
    auto* usual = new QPushButton(text, this);
    usual->setObjectName(QStringLiteral("budget%1Button").arg(minutes));
    time->addWidget(usual);
    usual_.push_back(usual);
    connect(usual, &QPushButton::clicked, this, [this, minutes = minutes] { Q_EMIT minutesChosen(minutes); });
  }
  time->addStretch(1);
  column->addLayout(time);
  connect(minutes_, &QDoubleSpinBox::editingFinished, this, [this] {
    if (minutes_->value() != shown_minutes_) Q_EMIT minutesChosen(minutes_->value());
  });
  fold_ = new Fold(tr("Details of the plan"), QStringLiteral("planFold"), this);
  QVBoxLayout* details = fold_->body();
  order_ = new QComboBox(this);
  order_->setObjectName(QStringLiteral("orderBox"));
  order_->setAccessibleName(tr("order"));
  order_->addItems({tr("all of the baseline, then all of the changed level"),
                    tr("there and back: a rough look that sees flips"),
                    tr("rounds in a drawn order: least affected by drift"),
                    tr("a swap for good, which nobody undoes: restarts before it, then blocked")});
  details->addWidget(order_);
  buildSizes(details);
  buildCrossed(details);
  buildGuess(details);
  column->addWidget(fold_);
  column->addStretch(1);
  connect(order_, &QComboBox::activated, this, &PlanEditor::edited);
}

void PlanEditor::makeRest() {
  settle_ = numberField<DecimalBox>(this, "settleSpin", 0.0, 86400.0, tr(" s"));
  settle_->setDecimals(0);
  settle_->setPrefix(tr("settle "));
  settle_->setToolTip(tr("Waited at the start of each visit, before anything is measured"));
  settle_to_ = numberField<DecimalBox>(this, "settleToSpin", 0.0, 110.0, tr(" °C"));
  settle_to_->setDecimals(0);
  settle_to_->setPrefix(tr("until below "));
  settle_to_->setSpecialValueText(tr("at any temperature"));
  settle_to_->setToolTip(tr("And until the hottest part is this cool, a quarter of an hour at most; 0: time alone"));
  quiet_ = numberField<DecimalBox>(this, "quietSpin", 0.0, 86400.0, tr(" s"));
  quiet_->setDecimals(0);
  quiet_->setPrefix(tr("wait for quiet, at most "));
  quiet_->setToolTip(tr("Waited before each pass until other programs keep still, at most; 0: not at all"));
  retries_ = numberField<QSpinBox>(this, "retriesSpin", 0, 10, QString());
  retries_->setPrefix(tr("retries "));
  retries_->setToolTip(tr("Further attempts at a pass that failed; each is on record"));
  sealed_ = new QCheckBox(tr("sealed"), this);
  sealed_->setObjectName(QStringLiteral("sealedCheck"));
  sealed_->setToolTip(tr("No estimate is shown before the plan is complete, so nobody stops when it looks good"));
}

void PlanEditor::buildSizes(QVBoxLayout* column) {
  passes_ = numberField<QSpinBox>(this, "passesSpin", 1, 1000, tr(" passes at each level"));
  rounds_ = numberField<QSpinBox>(this, "roundsSpin", 3, 500, tr(" rounds"));
  passes_per_visit_ = numberField<QSpinBox>(this, "passesPerVisitSpin", 1, 100, tr(" passes in each visit"));
  warm_ups_ = numberField<QSpinBox>(this, "warmUpsSpin", 0, 100, QString());
  warm_ups_->setPrefix(tr("warm-ups first: "));
  warm_ups_->setAccessibleName(tr("warm-ups at the start of each visit"));
  time_limit_ = numberField<DecimalBox>(this, "timeLimitSpin", 1.0, 86400.0, tr(" s"));
  time_limit_->setPrefix(tr("time limit per pass "));
  time_limit_->setDecimals(0);
  makeRest();
  looks_ = new QComboBox(this);
  looks_->setObjectName(QStringLiteral("looksBox"));
  looks_->setAccessibleName(tr("interim looks"));
  looks_->addItems({tr("no interim look"), tr("one interim look"), tr("two interim looks"), tr("three interim looks"),
                    tr("four interim looks")});
  looks_->setToolTip(
      tr("Interim looks are chosen with the plan: at each the results are shown, and the study may stop. "
         "Intervals are much wider at the first, and hardly at the end"));
  connect(looks_, &QComboBox::activated, this, &PlanEditor::edited);
  spread_ = new QComboBox(this);
  spread_->setObjectName(QStringLiteral("spreadBox"));
  spread_->setAccessibleName(tr("where intervals take their spread from"));
  spread_->addItems({tr("each comparison's own spread"), tr("spread of all configurations")});
  spread_->setToolTip(
      tr("All configurations together tell more of the spread than two: intervals are narrower for the same hours. "
         "Where one scatters unlike the others it is said, with the interval by the two alone beside it"));
  connect(spread_, &QComboBox::activated, this, &PlanEditor::edited);
  auto* sizes = new QHBoxLayout;
  for (QWidget* widget : std::initializer_list<QWidget*>{passes_, rounds_, passes_per_visit_, looks_, spread_})
    sizes->addWidget(widget);
  // Before a plan is loaded, the window is no wider for what belongs to another order.
  for (QWidget* widget : std::initializer_list<QWidget*>{rounds_, passes_per_visit_, looks_, spread_}) widget->hide();
  column->addLayout(sizes);
  using Fields = std::initializer_list<QWidget*>;
  for (const Fields& fields :
       {Fields{warm_ups_, time_limit_, retries_, sealed_}, Fields{settle_, settle_to_, quiet_}}) {
    auto* row = new QHBoxLayout;
    for (QWidget* widget : fields) row->addWidget(widget);
    column->addLayout(row);
  }
  for (QDoubleSpinBox* box : {settle_, settle_to_, quiet_})
    connect(box, &QDoubleSpinBox::valueChanged, this, &PlanEditor::edited);
  connect(retries_, &QSpinBox::valueChanged, this, &PlanEditor::edited);
  connect(sealed_, &QCheckBox::toggled, this, &PlanEditor::edited);
  for (QSpinBox* box : {passes_, rounds_, passes_per_visit_, warm_ups_})
    connect(box, &QSpinBox::valueChanged, this, &PlanEditor::edited);
  connect(time_limit_, &QDoubleSpinBox::valueChanged, this, &PlanEditor::edited);
}

void PlanEditor::buildGuess(QVBoxLayout* column) {
  pass_spread_ = numberField<DecimalBox>(this, "passSpreadSpin", 0.01, 50.0, tr(" %"));
  flip_spread_ = numberField<DecimalBox>(this, "flipSpreadSpin", 0.0, 50.0, tr(" %"));
  flip_minutes_ = numberField<DecimalBox>(this, "flipMinutesSpin", 0.0, 1440.0, tr(" min"));
  pass_minutes_ = numberField<DecimalBox>(this, "passMinutesSpin", 0.01, 1440.0, tr(" min"));
  pass_spread_->setPrefix(tr("pass spread (sd) "));
  flip_spread_->setPrefix(tr("flip spread (sd) "));
  flip_minutes_->setPrefix(tr("a flip takes "));
  pass_minutes_->setPrefix(tr("a pass of every case "));
  flip_minutes_->setDecimals(1);
  pass_minutes_->setDecimals(1);
  pass_spread_->setToolTip(tr("How much passes of one visit differ (sd)"));
  flip_spread_->setToolTip(tr("How much each flip moves a whole visit (sd)"));
  flip_minutes_->setToolTip(tr("How long a flip takes, until the machine has settled"));
  pass_minutes_->setToolTip(tr("How long one pass of every case takes, together"));
  auto* guess = new QHBoxLayout;
  for (QDoubleSpinBox* box : {pass_spread_, flip_spread_, flip_minutes_, pass_minutes_}) {
    box->setAccessibleName(box->toolTip());
    guess->addWidget(box);
  }
  column->addLayout(guess);
  for (QDoubleSpinBox* box : {pass_spread_, flip_spread_, flip_minutes_, pass_minutes_})
    connect(box, &QDoubleSpinBox::valueChanged, this, &PlanEditor::edited);
}

void PlanEditor::buildCrossed(QVBoxLayout* column) {
  crossed_ = new QWidget(this);
  planned_for_ = new QComboBox(crossed_);
  planned_for_->setObjectName(QStringLiteral("plannedForBox"));
  planned_for_->addItems({tr("one cell against another"), tr("a main effect"), tr("the interaction")});
  planned_for_->setToolTip(tr("The question that the plan is to be large enough for; the page answers all of them"));
  grouped_by_ = new QComboBox(crossed_);
  grouped_by_->setObjectName(QStringLiteral("groupedByBox"));
  grouped_by_->setToolTip(
      tr("Within a round the visits at one level of this variable follow each other, so that it is flipped rarely"));
  auto* row = new QHBoxLayout(crossed_);
  row->setContentsMargins(0, 0, 0, 0);
  for (const auto& [name, box] : {std::pair{tr("large enough for"), planned_for_}, {tr("grouped by"), grouped_by_}}) {
    auto* label = new QLabel(name, crossed_);
    label->setBuddy(box);
    row->addWidget(label);
    row->addWidget(box, 1);
    connect(box, &QComboBox::activated, this, &PlanEditor::edited);
  }
  groupings_ = softLabel("groupingsLabel", this);
  column->addWidget(crossed_);
  column->addWidget(groupings_);
}

void PlanEditor::loadCrossed(const core::Study& study, bool can_edit) {
  const bool is_shown =
      study.shape == core::Shape::Crossed && study.plan.order == core::Order::BalancedShuffle && can_edit;
  crossed_->setVisible(is_shown);
  groupings_->setVisible(is_shown && !view_.groupings.isEmpty());
  groupings_->setText(view_.groupings.join(QStringLiteral(". ")) + QLatin1Char('.'));
  planned_for_->setCurrentIndex(static_cast<int>(study.plan.planned_for));
  grouped_by_->clear();
  grouped_by_->addItem(tr("nothing: every order"), QString());
  for (const core::Variable& one : study.variables) grouped_by_->addItem(toQt(one.name), toQt(one.name));
  grouped_by_->setCurrentIndex(std::max(0, grouped_by_->findData(toQt(study.plan.grouped_by))));
}

void PlanEditor::load(const core::Study& study, const PlanningView& view, bool can_edit) {
  const core::Plan& plan = study.plan;
  study_ = study;
  loaded_ = plan;
  view_ = view;
  order_->setCurrentIndex(plan.is_one_way ? kOneWay : static_cast<int>(plan.order));
  passes_->setValue(plan.passes_per_level);
  rounds_->setValue(plan.rounds);
  passes_per_visit_->setValue(plan.passes_per_visit);
  warm_ups_->setValue(plan.warm_ups);
  time_limit_->setValue(plan.time_limit_s);
  settle_->setValue(plan.settle_s);
  settle_to_->setValue(plan.settle_to_c);
  quiet_->setValue(plan.quiet_wait_s);
  retries_->setValue(plan.retries);
  sealed_->setChecked(plan.is_sealed);
  const auto& unit = view.planning.aim.unit;
  for (QDoubleSpinBox* box : {pass_spread_, flip_spread_}) {
    const QSignalBlocker blocker(box);
    box->setSuffix(QLatin1Char(' ') + view.unit);
    box->setMinimum(unit || box == flip_spread_ ? 0.0 : 0.01);
  }
  pass_spread_->setValue(unit ? plan.guess.pass_spread_units : plan.guess.pass_spread_percent);
  flip_spread_->setValue(unit ? plan.guess.flip_spread_units : plan.guess.flip_spread_percent);
  flip_minutes_->setValue(plan.guess.flip_minutes);
  pass_minutes_->setValue(plan.guess.visit_pass_minutes);
  const bool has_rounds = plan.order == core::Order::BalancedShuffle;
  passes_->setVisible(!has_rounds);
  rounds_->setVisible(has_rounds);
  passes_per_visit_->setVisible(has_rounds);
  looks_->setVisible(has_rounds);
  looks_->setCurrentIndex(looksIndex(plan));
  spread_->setVisible(has_rounds && study.configurationCount() > 2);
  spread_->setCurrentIndex(static_cast<int>(plan.spread));
  pass_spread_->setVisible(!view.is_pass_spread_measured);
  flip_spread_->setVisible(!view.is_flip_spread_measured);
  flip_minutes_->setVisible(std::any_of(study.variables.begin(), study.variables.end(),
                                        [&](const core::Variable& one) { return core::isFlipGuessed(study, one); }));
  loadCrossed(study, can_edit);
  shown_minutes_ = std::round(view.current.minutes);
  minutes_->setValue(shown_minutes_);
  for (QPushButton* usual : usual_) usual->setEnabled(can_edit);
  for (QWidget* widget : std::initializer_list<QWidget*>{
           minutes_, order_, looks_, spread_, passes_, rounds_, passes_per_visit_, warm_ups_, time_limit_, settle_,
           settle_to_, quiet_, retries_, sealed_, pass_spread_, flip_spread_, flip_minutes_, pass_minutes_})
    widget->setEnabled(can_edit);
}

core::Plan PlanEditor::plan() const {
  core::Plan plan = loaded_;
  plan.is_one_way = order_->currentIndex() == kOneWay;
  plan.order = plan.is_one_way ? core::Order::Blocked : static_cast<core::Order>(order_->currentIndex());
  plan.passes_per_level = passes_->value();
  plan.rounds = rounds_->value();
  plan.passes_per_visit = passes_per_visit_->value();
  plan.warm_ups = warm_ups_->value();
  plan.time_limit_s = time_limit_->value();
  plan.settle_s = settle_->value();
  plan.settle_to_c = settle_to_->value();
  plan.quiet_wait_s = quiet_->value();
  plan.retries = retries_->value();
  plan.is_sealed = sealed_->isChecked();
  plan.spread = static_cast<core::Spread>(spread_->currentIndex());
  const bool is_in_unit = view_.planning.aim.unit.has_value();
  (is_in_unit ? plan.guess.pass_spread_units : plan.guess.pass_spread_percent) = pass_spread_->value();
  (is_in_unit ? plan.guess.flip_spread_units : plan.guess.flip_spread_percent) = flip_spread_->value();
  plan.guess.flip_minutes = flip_minutes_->value();
  plan.guess.visit_pass_minutes = pass_minutes_->value();
  const bool has_rounds = plan.order == core::Order::BalancedShuffle;
  // Looks that a design put elsewhere stay as they are, as long as nobody asks for others.
  const bool are_kept = has_rounds && plan.rounds == loaded_.rounds && looks_->currentIndex() == looksIndex(loaded_);
  if (!are_kept) {
    plan.looks = has_rounds ? core::evenLooks(looks_->currentIndex() + 1, plan.rounds) : std::vector<int>{};
    plan.look_price = plan.looks.empty() ? core::LookPrice::Thirds : core::LookPrice::Spending;
  }
  if (study_.shape == core::Shape::Crossed) {
    plan.planned_for = static_cast<core::PlannedFor>(planned_for_->currentIndex());
    plan.grouped_by = grouped_by_->currentData().toString().toStdString();
  }
  const bool is_redrawn = static_cast<int>(plan.drawn.size()) != plan.rounds || plan.grouped_by != loaded_.grouped_by;
  if (plan.order == core::Order::BalancedShuffle && is_redrawn)
    plan.drawn = core::drawRoundsOf(study_, plan, plan.rounds, plan.seed);
  return plan;
}

void PlanEditor::choose(const core::CandidatePlan& candidate) {
  Q_EMIT planChosen(core::withCandidate(plan(), candidate, loaded_.seed));
}

void PlanEditor::focusSize() {
  fold_->setOpen(true);
  if (rounds_->isVisible())
    rounds_->setFocus();
  else
    passes_->setFocus();
}

}  // namespace app
