#include "session/user/study_list.h"

#include <QSaveFile>
#include <algorithm>
#include <fstream>

#include "session/user/file_lock.h"
#include "session/user/user_files.h"
#include "store/json/json_text.h"

namespace session {

std::vector<std::string> StudyList::all() const {
  std::vector<std::string> studies;
  if (!checkOwnFile(path_)) return studies;
  std::ifstream file(path_);
  for (std::string line; std::getline(file, line);)
    if (const auto path = store::parseJson(line); path.is_string()) studies.push_back(path.get<std::string>());
  return studies;
}

void StudyList::keep(const std::vector<std::string>& studies) const {
  if (!makeOwnFile(path_)) return;
  QSaveFile file(QString::fromStdString(path_));
  if (!file.open(QIODevice::WriteOnly)) return;
  for (const std::string& study : studies) file.write((store::jsonText(nlohmann::json(study)) + "\n").c_str());
  file.commit();
}

// Under a lock: two sheets that begin at once are both to go on after a restart.
void StudyList::add(const std::string& study) const {
  if (!makeOwnFile(path_)) return;
  const auto lock = FileLock::whileChanging(path_);
  std::vector<std::string> studies = all();
  if (std::find(studies.begin(), studies.end(), study) != studies.end()) return;
  studies.push_back(study);
  keep(studies);
}

void StudyList::remove(const std::string& study) const {
  const auto lock = FileLock::whileChanging(path_);
  std::vector<std::string> studies = all();
  if (std::erase(studies, study) > 0) keep(studies);
}

}  // namespace session
