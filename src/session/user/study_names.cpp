#include "session/user/study_names.h"

#include <QDate>
#include <QDir>
#include <QFileInfo>
#include <QRegularExpression>
#include <algorithm>

#include <fmt/format.h>

#include "core/study/asked_contrasts.h"
#include "core/values/shown_text.h"

namespace session {
namespace {

// The first of such names, by number from 1, that nobody has but `own`.
template <typename NameOf>
std::string freePath(const QDir& folder, const NameOf& nameOf, const std::string& own = {}) {
  for (int number = 1;; ++number) {
    const QString path = folder.filePath(QString::fromStdString(nameOf(number) + ".ironlever"));
    if (path.toStdString() == own || !QFile::exists(path)) return path.toStdString();
  }
}

}  // namespace

std::string newStudyPath(const std::string& folder) {
  const QDir place(QString::fromStdString(folder));
  (void)place.mkpath(QStringLiteral("."));  // where it cannot be made, making the study says why
  const std::string day = QDate::currentDate().toString(Qt::ISODate).toStdString();
  return freePath(place, [&](int number) { return fmt::format("question {} of {}", number, day); });
}

bool isNamedByNumber(const std::string& path, const std::string& folder) {
  static const QRegularExpression numbered(QStringLiteral("^question [0-9]+ of [0-9]{4}-[0-9]{2}-[0-9]{2}$"));
  const QFileInfo file(QString::fromStdString(path));
  return file.absoluteDir() == QDir(QString::fromStdString(folder)) &&
         numbered.match(file.completeBaseName()).hasMatch();
}

std::string questionName(const core::Study& study) {
  constexpr std::size_t kMostBytes = 120;  // a name may have 255, and more is not read in a list
  std::string what = study.variable().name;
  if (study.shape == core::Shape::Crossed) {
    what += " with " + study.variables.back().name;
  } else {
    const core::PairOf pair = core::headlinePair(study);
    what += fmt::format(", {} to {}", study.nameOf(pair.from), study.nameOf(pair.to));
  }
  std::string name = core::shownLine(fmt::format("{}, {}", study.bench, what));
  std::replace(name.begin(), name.end(), '/', '-');
  return std::string(core::cutText(name.substr(name.find_first_not_of(". ")), kMostBytes));
}

std::string pathByQuestion(const core::Study& study, const std::string& path) {
  const std::string name = questionName(study);
  const auto numbered = [&](int number) { return number == 1 ? name : fmt::format("{} {}", name, number); };
  return freePath(QFileInfo(QString::fromStdString(path)).absoluteDir(), numbered, path);
}

}  // namespace session
