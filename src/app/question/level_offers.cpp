#include "app/question/level_offers.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
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
      connect(button, &QPushButton::clicked, this, [this, i] {
        const std::string before = std::exchange(last_, shown_[i]);
        Q_EMIT pressed(i, toQt(before));
      });
    }
    row_->addStretch(1);
  }
  for (std::size_t i = 0; i < wanted.size(); ++i)
    if (auto* button = findChild<QPushButton*>(QStringLiteral("offer%1Button").arg(i + 1))) {
      button->setChecked(has(variable.levels, wanted[i]));
      button->setEnabled(can_edit);
      button->setToolTip(wanted[i] == offer.now ? tr("as the bench is now") : QString());
    }
}

core::Variable withOffered(core::Variable variable, const bench::Offer& offer, std::size_t pressed, bool is_pair,
                           const std::string& before) {
  const core::Level& wanted = offer.levels.at(pressed);
  std::vector<core::Level> kept;
  for (const core::Level& level : variable.levels)
    if (has(offer.levels, level.name)) kept.push_back(level);
  const bool was_in = has(kept, wanted.name);
  if (was_in && !is_pair && kept.size() > 2)
    std::erase_if(kept, [&](const core::Level& one) { return one.name == wanted.name; });
  if (!was_in) kept.push_back(wanted);
  if (is_pair && kept.size() > 2)
    kept.erase(std::find_if(kept.begin(), kept.end(), [&](const core::Level& one) { return one.name != before; }));
  if (kept.size() < 2) return variable;
  const auto place = [&](const core::Level& level) {
    return std::find_if(offer.levels.begin(), offer.levels.end(),
                        [&](const core::Level& one) { return one.name == level.name; });
  };
  std::stable_sort(kept.begin(), kept.end(),
                   [&](const core::Level& a, const core::Level& b) { return place(a) < place(b); });
  variable.levels = kept;
  variable.baseline = std::min(variable.baseline, kept.size() - 1);
  return variable;
}

std::vector<core::Level> likelyPair(const bench::Offer& offer) {
  if (offer.levels.size() < 2) return {};
  const std::size_t last = offer.levels.size() - 1;
  const std::size_t now = offer.levelNow().value_or(last);
  const std::size_t lower = now == last ? last - 1 : now;
  return {offer.levels[lower], offer.levels[lower + 1]};
}

}  // namespace app
