#include "app/model/doubts_model.h"

#include <algorithm>

namespace app {

DoubtsModel::DoubtsModel(const StudyModel& study, QObject* parent) : QAbstractListModel(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, &DoubtsModel::refresh);
  if (study.hasStudy()) refresh();
}

void DoubtsModel::refresh() {
  beginResetModel();
  doubts_ = study_.judgement().doubts;
  endResetModel();
}

int DoubtsModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(doubts_.size());
}

QVariant DoubtsModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid() || index.row() >= rowCount()) return {};
  const core::Doubt& doubt = doubts_[static_cast<std::size_t>(index.row())];
  switch (role) {
    case Qt::DisplayRole: return toQt(doubt.sentence);
    case Qt::AccessibleTextRole: return toQt(std::string(core::doubtRankName(doubt.rank)) + ": " + doubt.sentence);
    case RankRole: return static_cast<int>(doubt.rank);
    case RemedyRole: return toQt(doubt.remedy);
    case AcceptedRole: return doubt.accepted_because ? toQt(*doubt.accepted_because) : QString();
    case IdRole: return toQt(doubt.id);
    case PlaceRole: return static_cast<int>(doubt.place);
    case CaseRole: return doubt.case_index ? static_cast<int>(*doubt.case_index) : -1;
    default: return {};
  }
}

int DoubtsModel::openCount(core::DoubtRank rank) const {
  return static_cast<int>(std::count_if(doubts_.begin(), doubts_.end(), [&](const core::Doubt& doubt) {
    return doubt.rank == rank && !doubt.accepted_because;
  }));
}

QString DoubtsModel::headline() const {
  if (doubts_.empty()) return study_.hasStudy() ? tr("No doubts yet: nothing is measured") : QString();
  return doubts_.front().accepted_because ? tr("Every doubt has been accepted with a reason")
                                          : toQt(doubts_.front().sentence);
}

}  // namespace app
