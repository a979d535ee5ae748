#pragma once

#include <QString>
#include <map>

#include "app/model/study_model.h"

namespace app {

// What a person at the bench says while they work. Nothing without a study; errors are told by the model.

/// What only a person knows about the bench, by the id of the fact; only what differs is recorded.
void stateFacts(StudyModel& model, const std::map<QString, QString>& facts);

/// A key was pressed in the program itself: begins the counted stretch at once, or ends it.
void pressPlayersKey(StudyModel& model);

/// How the last played pass felt: "smooth", "hitches" or "unusable".
void sayHowItFelt(StudyModel& model, const QString& word);

}  // namespace app
