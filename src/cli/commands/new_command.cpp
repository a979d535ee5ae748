#include <fstream>
#include <sstream>

#include "cli/commands.h"
#include "core/study/schedule.h"
#include "store/json/study_json.h"
#include "store/study/study_file.h"

namespace cli {

core::Status newCommand(const std::string& study_path, const std::string& design_path, std::ostream& out) {
  std::ifstream file(design_path);
  if (!file)
    return core::Error{core::ErrorKind::Missing, "the design cannot be read", design_path, "Check its name and folder"};
  std::ostringstream text;
  text << file.rdbuf();
  const auto study = store::studyFromJson(text.str(), design_path);
  if (!study) return study.error();
  if (const auto problems = core::problemsOf(*study); !problems.empty()) {
    core::Error first = problems.front();
    first.where = design_path + ", " + first.where;
    return first;
  }
  const auto made = store::StudyFile::create(study_path, *study);
  if (!made) return made.error();
  out << "Made " << study_path << ": " << core::scheduleOf(*study).size() << " passes, warm-ups included.\n";
  return core::Done{};
}

}  // namespace cli
