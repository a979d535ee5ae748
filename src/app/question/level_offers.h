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

/// The variable with a pressed level put in or taken out. Of a pair the one that was pressed before it stays, the other
/// goes; of more than two each is put in or taken out, two at least are left. In the order of the offer.
[[nodiscard]] core::Variable withOffered(core::Variable variable, const bench::Offer& offer, std::size_t pressed,
                                         bool is_pair, const std::string& before);

/// The two levels that a person most likely means: as the bench is now, and the next one.
[[nodiscard]] std::vector<core::Level> likelyPair(const bench::Offer& offer);

}  // namespace app
