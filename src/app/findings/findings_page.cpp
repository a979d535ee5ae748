#include "app/findings/findings_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListView>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/findings/compared_bar.h"
#include "app/findings/evidence_panel.h"
#include "app/findings/lever_chart.h"
#include "app/findings/shape_view.h"
#include "app/findings/used_view.h"
#include "app/model/next_studies.h"
#include "app/shell/theme.h"
#include "app/shell/usable.h"

namespace app {
namespace {

QString titleOf(core::Shape shape) {
  switch (shape) {
    case core::Shape::Pair: break;
    case core::Shape::Ladder: return FindingsPage::tr("How far each step carries");
    case core::Shape::Crossed: return FindingsPage::tr("What one does at each level of the other");
    case core::Shape::Chain: return FindingsPage::tr("Where the change comes from");
  }
  return FindingsPage::tr("What the change did");
}

}  // namespace

QHBoxLayout* FindingsPage::buildHead(QLabel* title) {
  sort_ = new QComboBox(this);
  sort_->setObjectName(QStringLiteral("sortBox"));
  sort_->setAccessibleName(tr("order of the cases"));
  sort_->addItems({tr("by effect"), tr("by workload"), tr("by preset")});
  pin_ = new QPushButton(tr("Pin it …"), this);
  pin_->setObjectName(QStringLiteral("pinButton"));
  pin_->setToolTip(tr("Puts the chosen case first, with a remark that goes into the report"));
  explain_ = new QPushButton(tr("Say why …"), this);
  explain_->setObjectName(QStringLiteral("explainButton"));
  explain_->setToolTip(tr("The cause of the chosen case's finding: measured, ruled out, a conjecture, or unexplained"));
  connect(explain_, &QPushButton::clicked, this, [this] {
    if (chosen_case_) Q_EMIT explanationRequested(toQt(study_.study().cases[*chosen_case_].title()));
  });
  show_used_ = new QPushButton(tr("What the levels used"), this);
  show_used_->setObjectName(QStringLiteral("showUsedButton"));
  show_used_->setCheckable(true);
  show_used_->setToolTip(tr("Load, power, clocks, heat and memory of both levels side by side, beside what they gave"));
  connect(show_used_, &QPushButton::toggled, this, &FindingsPage::refresh);
  auto* head = new QHBoxLayout;
  head->addWidget(title, 1);
  head->addWidget(show_used_);
  head->addWidget(sort_);
  head->addWidget(explain_);
  head->addWidget(pin_);
  connect(sort_, &QComboBox::activated, this, [this](int index) {
    levers_.setSorted(static_cast<LeverModel::Sorted>(index));
    refresh();
  });
  connect(pin_, &QPushButton::clicked, this, [this] {
    if (chosen_case_) Q_EMIT pinRequested(toQt(study_.study().cases[*chosen_case_].title()));
  });
  return head;
}

// The open question stands below the evidence, where the rows of the chart lose no room to it.
QVBoxLayout* FindingsPage::besideChart() {
  auto* column = new QVBoxLayout;
  column->setSpacing(0);
  column->addWidget(panel_, 1);
  auto* row = new QHBoxLayout;
  row->setContentsMargins(14, 6, 14, 10);
  row->addWidget(ask_next_);
  column->addLayout(row);
  return column;
}

void FindingsPage::dressParts() {
  legend_->setObjectName(QStringLiteral("leverLegend"));
  legend_->setProperty("soft", true);
  legend_->setWordWrap(true);
  empty_->setObjectName(QStringLiteral("findingsEmptyLabel"));
  empty_->setFont(textFont(TextSize::Large));
  empty_->setWordWrap(true);
  empty_->setMaximumWidth(760);
  empty_->setAlignment(Qt::AlignTop);
  open_early_->setObjectName(QStringLiteral("openEarlyButton"));
  open_early_->setToolTip(tr("Stays on record, as a doubt and in the logbook"));
  connect(open_early_, &QPushButton::clicked, this, &FindingsPage::openEarlyRequested);
  ask_next_->setObjectName(QStringLiteral("askNextButton"));
  ask_next_->setToolTip(tr("Makes a study of its own: the lowest level of this one against the next lower one"));
  connect(ask_next_, &QPushButton::clicked, this, &FindingsPage::nextQuestionRequested);
  list_->setObjectName(QStringLiteral("leverList"));
  list_->setAccessibleName(tr("Cases with their change in percent"));
  list_->setModel(&levers_);
  list_->setItemDelegate(new LeverDelegate(levers_, list_));
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

FindingsPage::FindingsPage(const StudyModel& study, LeverModel& levers, QWidget* parent)
    : QWidget(parent),
      study_(study),
      levers_(levers),
      legend_(new QLabel(this)),
      axis_(new LeverAxis(levers, this)),
      list_(new QListView(this)),
      empty_(new QLabel(this)),
      open_early_(new QPushButton(tr("Open them early …"), this)),
      ask_next_(new QPushButton(this)),
      used_model_(new UsedModel(study, this)),
      used_(new UsedView(study, *used_model_, this)),
      shape_(new ShapeView(study, this)),
      compared_(new ComparedBar(study, this)),
      panel_(new EvidencePanel(study, *used_model_, this)) {
  setObjectName(QStringLiteral("findingsPage"));
  auto* title = title_ = new QLabel(this);
  title->setFont(textFont(TextSize::Large, true));
  dressParts();
  auto* left = new QVBoxLayout;
  left->setContentsMargins(8, 16, 8, 8);
  left->setSpacing(4);
  for (QLabel* label : {title, legend_, empty_}) label->setContentsMargins(12, 0, 0, 0);
  QHBoxLayout* head = buildHead(title);
  connect(shape_, &ShapeView::pairRequested, this, &FindingsPage::pairRequested);
  connect(panel_, &EvidencePanel::meaningRequested, this, &FindingsPage::meaningRequested);
  connect(compared_, &ComparedBar::pairRequested, this, &FindingsPage::pairRequested);
  left->addLayout(head);
  left->addWidget(shape_, 3);
  left->addWidget(compared_);
  left->addWidget(used_, 3);
  left->addWidget(legend_);
  left->addSpacing(6);
  left->addWidget(axis_);
  left->addWidget(list_, 2);
  left->addWidget(empty_);
  auto* opening = new QHBoxLayout;
  opening->setContentsMargins(12, 8, 0, 0);
  opening->addWidget(open_early_);
  opening->addStretch(1);
  left->addLayout(opening);
  left->addStretch(0);
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addLayout(left, 1);
  layout->addLayout(besideChart());
  connect(&study_, &StudyModel::changed, this, &FindingsPage::refresh);
  connect(&study_, &StudyModel::studyOpened, this, [this] {
    chosen_case_.reset();
    refresh();
  });
  connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& index) {
    if (!index.isValid() || is_refreshing_) return;
    chosen_case_ = levers_.row(index.row()).case_index;
    showEvidence();
  });
  restyle();
}

void FindingsPage::refresh() {
  const bool is_sealed = study_.hasStudy() && study_.judgement().is_sealed;
  const bool has_results = study_.hasStudy() && study_.judgement().findings.recorded_passes > 0 && !is_sealed;
  for (QWidget* widget :
       std::initializer_list<QWidget*>{axis_, list_, legend_, panel_, sort_, pin_, explain_, show_used_})
    widget->setVisible(has_results);
  const bool shows_used = has_results && show_used_->isChecked();
  used_->setVisible(shows_used);
  empty_->setVisible(!has_results);
  open_early_->setVisible(is_sealed);
  const auto next = furtherDown(study_);
  ask_next_->setVisible(next.has_value());
  if (next) ask_next_->setText(tr("What would %1 say? …").arg(toQt(next->variable().levels[1].name)));
  empty_->setText(
      is_sealed ? tr("Sealed until all %1 passes are done.\n\nNobody stops when it looks good, or goes on because it "
                     "does not. "
                     "Passes are filed and failures are shown; every number waits until the plan is complete.")
                      .arg(study_.judgement().findings.planned_passes)
                : tr("Nothing is measured yet.\n\nComplete the question and start the sheet: each case appears here as "
                     "soon as its plan is complete."));
  legend_->setText(levers_.legend());
  title_->setText(shows_used ? tr("Used, beside what came of it")
                             : titleOf(study_.hasStudy() ? study_.study().shape : core::Shape::Pair));
  compared_->show(has_results);
  if (!has_results) return shape_->show({});
  // What the levers do not need belongs to the study's own picture.
  const bool has_shape = study_.study().shape != core::Shape::Pair || shows_used;
  const int needed = list_->sizeHintForRow(0) * levers_.rowCount() + 2 * list_->frameWidth();
  list_->setMaximumHeight(has_shape ? needed : QWIDGETSIZE_MAX);
  // The model was built anew; the row that a person chose stays chosen.
  const bool has_case = chosen_case_ && *chosen_case_ < study_.judgement().findings.cases.size();
  is_refreshing_ = true;
  list_->setCurrentIndex(levers_.index(has_case ? levers_.rowOfCase(*chosen_case_) : 0));
  is_refreshing_ = false;
  showEvidence();
}

void FindingsPage::chooseCase(std::size_t case_index) {
  list_->setCurrentIndex(levers_.index(levers_.rowOfCase(case_index)));
}

// What the levels used is worked out where it is seen.
void FindingsPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  if (!used_->isHidden()) refresh();
}

void FindingsPage::showUsed() { show_used_->setChecked(true); }

void FindingsPage::restyle() {
  panel_->restyle();
  refresh();
}

void FindingsPage::showEvidence() {
  for (QWidget* control : std::initializer_list<QWidget*>{pin_, explain_})
    setUsable(*control, chosen_case_ ? QString() : tr("Choose a case first"));
  const auto& pins = study_.judgement().pins;
  const bool is_pinned = chosen_case_ && pins.contains(study_.study().cases[*chosen_case_].title());
  pin_->setText(is_pinned ? tr("Unpin it") : tr("Pin it …"));
  const int row = list_->currentIndex().isValid() ? list_->currentIndex().row() : 0;
  if (row >= levers_.rowCount()) return;
  panel_->showCase(levers_.row(row).case_index);
  shape_->show(levers_.row(row).case_index);
  if (used_->isHidden()) return;
  shape_->hide();
  if (isVisible()) used_->showCase(levers_.row(row).case_index);
}

}  // namespace app
