#include "session/cabinet/read_study.h"

#include "session/cabinet/study_copy.h"

namespace session {

core::Result<ReadStudy> readStudy(const std::string& path) {
  auto copy = StudyCopy::of(path);
  if (!copy) return copy.error();
  auto recorded = copy->file().recorded();
  if (!recorded) {
    core::Error error = recorded.error();
    error.where = path;
    return error;
  }
  return ReadStudy{path, copy->sha256(), copy->file().identity(), copy->file().study(), *std::move(recorded)};
}

}  // namespace session
