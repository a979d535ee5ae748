#pragma once

#include <QAbstractListModel>

#include "app/model/study_model.h"

namespace app {

/// The doubts of the study as a list, worst first.
class DoubtsModel final : public QAbstractListModel {
  Q_OBJECT
 public:
  enum Role { RankRole = Qt::UserRole, RemedyRole, AcceptedRole, IdRole, PlaceRole, CaseRole };
  explicit DoubtsModel(const StudyModel& study, QObject* parent = nullptr);

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;

  /// Doubts of this rank that nobody has accepted.
  [[nodiscard]] int openCount(core::DoubtRank rank) const;
  /// The worst open doubt as a sentence; what to say when there is none.
  [[nodiscard]] QString headline() const;

 private:
  void refresh();
  const StudyModel& study_;
  std::vector<core::Doubt> doubts_;
};

}  // namespace app
