#include "app/question/level_offers.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <algorithm>
#include <utility>

#include "app/model/study_model.h"

namespace app {
namespace {

bool has(const std::vector<core::Level>& levels, const std::string& name) {
  return std::any_of(levels.begin(), levels.end(), [&](const core::Level& one) { return one.name == name; });
}

}  // namespace

LevelOffers::LevelOffers(QWidget* parent) : QWidget(parent), row_(new QHBoxLayout(this)) {
  setObjectName(QStringLiteral("levelOffers"));
  row_->setContentsMargins(0, 0, 0, 0);
  row_->setSpacing(6);
}

void LevelOffers::load(const core::Variable& variable, const bench::Offer& offer, bool can_edit) {
  setVisible(!offer.levels.empty());
  std::vector<std::string> wanted;
  for (const core::Level& level : offer.levels) wanted.push_back(level.name);
  if (wanted != shown_) {
    shown_ = wanted;
    last_.clear();
    while (QLayoutItem* item = row_->takeAt(0)) {
      if (item->widget()) item->widget()->deleteLater();
      delete item;
    }
    row_->addWidget(new QLabel(tr("this bench offers"), this));
    for (std::size_t i = 0; i < wanted.size(); ++i) {
      auto* button = new QPushButton(toQt(wanted[i]), this);
      button->setObjectName(QStringLiteral("offer%1Button").arg(i + 1));
      button->setCheckable(true);
      row_->addWidget(button);
      connect(button, &QPushButton::toggled, this, [this, i] {
        const std::string before = std::exchange(last_, shown_[i]);
        Q_EMIT pressed(i, toQt(before));
      });
    }
    row_->addStretch(1);
  }
  for (std::size_t i = 0; i < wanted.size(); ++i)
    if (auto* button = findChild<QPushButton*>(QStringLiteral("offer%1Button").arg(i + 1))) {
      {
        const QSignalBlocker blocker(button);
        button->setChecked(has(variable.levels, wanted[i]));
      }
      button->setEnabled(can_edit);
      button->setToolTip(wanted[i] == offer.now ? tr("as the bench is now") : QString());
    }
}

}  // namespace app
