#include "session/running_studies.h"

#include <QDir>
#include <QFileInfo>
#include <QSaveFile>
#include <algorithm>
#include <fstream>

namespace session {

std::vector<std::string> RunningStudies::all() const {
  std::vector<std::string> studies;
  std::ifstream file(path_);
  for (std::string line; std::getline(file, line);)
    if (!line.empty()) studies.push_back(line);
  return studies;
}

void RunningStudies::keep(const std::vector<std::string>& studies) const {
  const QString path = QString::fromStdString(path_);
  QDir().mkpath(QFileInfo(path).absolutePath());
  QSaveFile file(path);
  if (!file.open(QIODevice::WriteOnly)) return;
  for (const std::string& study : studies) file.write((study + "\n").c_str());
  file.commit();
}

void RunningStudies::add(const std::string& study) const {
  std::vector<std::string> studies = all();
  if (std::find(studies.begin(), studies.end(), study) != studies.end()) return;
  studies.push_back(study);
  keep(studies);
}

void RunningStudies::remove(const std::string& study) const {
  std::vector<std::string> studies = all();
  if (std::erase(studies, study) > 0) keep(studies);
}

}  // namespace session
