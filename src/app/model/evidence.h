#pragma once

#include <QString>
#include <QStringList>
#include <vector>

#include "app/model/study_model.h"

namespace app {

/// The evidence behind one row of the lever chart, in finished text: one sentence and one table to be read first, the
/// rest in parts that a person unfolds.
struct Evidence {
  /// A table: as many cells in each row as there are columns, the first of them names it.
  struct Table {
    QStringList columns;
    std::vector<QStringList> rows;
    bool is_by_level = false;  ///< the second column is the baseline's, the third the changed level's
  };
  struct Part {
    QString id;  ///< stable, by which a person's unfolding is remembered
    QString title;
    QString brief;  ///< what is said beside the title while it is folded; may be empty
    Table table;
    QStringList remarks;  ///< sentences
  };
  QString verdict;  ///< as the manual explains it; empty where there is none
  QString title;
  QString subtitle;  ///< how many passes, which estimator
  QString sentence;  ///< the answer in one sentence
  Table table;
  QStringList remarks;  ///< what must be read with it
  std::vector<Part> parts;
};

/// `case_index` absent: the suite. `used`: of usedOf, for all cases.
[[nodiscard]] Evidence evidenceOf(const core::Study& study, const core::Judgement& judgement,
                                  std::optional<std::size_t> case_index, const std::vector<core::Used>& used = {});

}  // namespace app
