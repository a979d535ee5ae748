#include "app/model/used_model.h"

namespace app {

UsedModel::UsedModel(const StudyModel& study, QObject* parent) : QObject(parent), study_(study) {
  connect(&study, &StudyModel::changed, this, [this] { all_.reset(); });
  connect(&study, &StudyModel::studyOpened, this, [this] { all_.reset(); });
}

const std::vector<core::Used>& UsedModel::all() const {
  if (!all_)
    all_ = core::usedOf(study_.study(), store::recordOf(study_.session().open().recorded()), study_.judgement());
  return *all_;
}

}  // namespace app
