#pragma once

#include <QScrollArea>
#include <optional>

#include "app/model/used_model.h"

namespace app {

/// What the levels used, in small pictures: one row a channel, every pass a mark beside its configuration's others, the
/// change with its interval at the right. Of the chosen case; of all of them only what surely moved.
class UsedView final : public QScrollArea {
  Q_OBJECT
 public:
  UsedView(const StudyModel& study, const UsedModel& used, QWidget* parent = nullptr);
  /// `case_index` nothing: every case.
  void showCase(std::optional<std::size_t> case_index);

 private:
  class Rows;
  const StudyModel& study_;
  Rows* rows_;
};

}  // namespace app
