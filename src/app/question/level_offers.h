#pragma once

#include <QWidget>

#include "bench/offers.h"
#include "core/study/study.h"

class QHBoxLayout;
class QLabel;

namespace app {

/// The levels that this bench offers for a variable, as switches to be pressed: those of the study are down.
class LevelOffers final : public QWidget {
  Q_OBJECT
 public:
  explicit LevelOffers(QWidget* parent = nullptr);
  /// Hidden where nothing is offered.
  void load(const core::Variable& variable, const bench::Offer& offer, bool can_edit);

 Q_SIGNALS:
  /// One of the levels that are offered was pressed; `before`: the one that was pressed before it, empty for the first.
  void pressed(std::size_t level, const QString& before);

 private:
  QHBoxLayout* row_;
  std::string last_;
  std::vector<std::string> shown_;
};

}  // namespace app
