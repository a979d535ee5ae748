#pragma once

#include <QScrollArea>
#include <vector>

#include "app/model/run_sheet_view_model.h"

namespace app {

/// The sheet's cards in time order, one a visit.
class VisitCards final : public QWidget {
  Q_OBJECT
 public:
  explicit VisitCards(QWidget* parent = nullptr) : QWidget(parent) {}
  void show(std::vector<VisitCard> cards);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::vector<VisitCard> cards_;
};

}  // namespace app
