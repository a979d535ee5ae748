#pragma once

#include <QString>
#include <QStringList>

namespace app {

class StudyModel;

/// The large card: what is to be done or what is being done, readable from two metres.
struct HandCard {
  QString title;
  QString line;       ///< where in the plan
  QStringList steps;  ///< what happens, or what a person does
  QString caution;
  QStringList commands;  ///< to be read and approved; empty otherwise
  bool is_problem = false;
  bool is_contradicted = false;  ///< the bench is not at the level: a person decides
};

/// The card while the sheet runs: what the program does, and what a player does. `players_key`: the key that is heard
/// while the player's program has the keyboard, empty where none is.
[[nodiscard]] HandCard runningCardOf(const StudyModel& study, const QString& players_key);

}  // namespace app
