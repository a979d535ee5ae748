#pragma once

#include <QObject>
#include <optional>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// What the two configurations that the window compares used; worked out when somebody looks, once for each change.
class UsedModel final : public QObject {
  Q_OBJECT
 public:
  explicit UsedModel(const StudyModel& study, QObject* parent = nullptr);
  /// Only with a study.
  [[nodiscard]] const std::vector<core::Used>& all() const;

 private:
  const StudyModel& study_;
  mutable std::optional<std::vector<core::Used>> all_;
};

}  // namespace app
