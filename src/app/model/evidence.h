#pragma once

#include <QString>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// The evidence behind one row of the lever chart, in finished text.
struct Evidence {
  struct Row {
    QString name;
    QString baseline;
    QString changed;
    QString change;
  };
  QString title;
  QString subtitle;  ///< how many passes, which estimator
  QString baseline_name;
  QString changed_name;
  std::vector<Row> rows;
  std::vector<QString> remarks;  ///< sentences
};

/// `case_index` absent: the suite. `with_all`: the findings with what people left out, where anything was.
[[nodiscard]] Evidence evidenceOf(const core::Study& study, const core::Findings& findings,
                                  std::optional<std::size_t> case_index,
                                  const std::optional<core::Findings>& with_all = {});

}  // namespace app
