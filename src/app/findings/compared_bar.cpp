#include "app/findings/compared_bar.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>

#include "app/shell/theme.h"

namespace app {
namespace {

// A pass that is filed meanwhile does not take the list away from whoever is choosing.
void fill(QComboBox* box, const core::Study& study, core::ConfigurationId shown) {
  QStringList names;
  for (const core::ConfigurationId one : core::configurationsOf(study)) names << toQt(study.nameOf(one));
  QStringList listed;
  for (int i = 0; i < box->count(); ++i) listed << box->itemText(i);
  if (names != listed) {
    box->clear();
    box->addItems(names);
  }
  box->setCurrentIndex(static_cast<int>(core::placeOf(shown)));
}

core::ConfigurationId chosenIn(const QComboBox* box) {
  return core::configurationAt(static_cast<std::size_t>(box->currentIndex()));
}

}  // namespace

ComparedBar::ComparedBar(const StudyModel& study, QWidget* parent)
    : QWidget(parent), study_(study), to_(new QComboBox(this)), from_(new QComboBox(this)), remark_(new QLabel(this)) {
  setObjectName(QStringLiteral("comparedBar"));
  to_->setObjectName(QStringLiteral("comparedToBox"));
  to_->setAccessibleName(tr("the configuration that is compared"));
  from_->setObjectName(QStringLiteral("comparedFromBox"));
  from_->setAccessibleName(tr("the configuration that it is compared with"));
  for (QComboBox* box : {to_, from_}) {
    box->setFont(textFont(TextSize::Normal, true));
    box->setToolTip(
        tr("Any two can be put against each other; what nobody asked before is marked as chosen afterwards"));
    connect(box, &QComboBox::activated, this, [this, box] { choose(box, box == to_ ? from_ : to_); });
  }
  remark_->setObjectName(QStringLiteral("comparedLabel"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(12, 6, 0, 0);
  row->addWidget(to_);
  row->addWidget(new QLabel(tr("against"), this));
  row->addWidget(from_);
  row->addWidget(remark_, 1);
}

void ComparedBar::show(bool has_results) {
  const bool is_wanted = has_results && study_.study().shape != core::Shape::Pair;
  setVisible(is_wanted);
  if (!is_wanted) return;
  const core::Judgement& judged = study_.judgement();
  fill(to_, study_.study(), judged.pair.to);
  fill(from_, study_.study(), judged.pair.from);
  remark_->setText(judged.isPairAsked() ? tr("case by case") : tr("case by case · chosen afterwards"));
  remark_->setToolTip(judged.isPairAsked() ? QString() : toQt(core::chosenAfterwardsText()));
}

// One against itself says nothing: the two then change places.
void ComparedBar::choose(QComboBox* chosen, QComboBox* other) {
  const core::PairOf shown = study_.judgement().pair;
  if (chosen->currentIndex() == other->currentIndex())
    other->setCurrentIndex(static_cast<int>(core::placeOf(chosen == to_ ? shown.to : shown.from)));
  Q_EMIT pairRequested({chosenIn(from_), chosenIn(to_)});
}

}  // namespace app
