#include "session/programs/result_places.h"

#include <sys/stat.h>

#include <fmt/format.h>

#include "core/values/number_pattern.h"
#include "store/files/regular_file.h"
#include "store/logs/json_result.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

std::string stampOf(const std::string& path) {
  struct stat file {};
  if (path.empty() || ::stat(path.c_str(), &file) != 0) return {};
  return fmt::format("{}:{}:{}.{:09}:{}.{:09}:{}", file.st_dev, file.st_ino, file.st_mtim.tv_sec, file.st_mtim.tv_nsec,
                     file.st_ctim.tv_sec, file.st_ctim.tv_nsec, file.st_size);
}

core::Result<double> numberIn(const std::string& text, const core::CaseResult& result, const std::string& where) {
  if (!result.pattern.empty()) return core::lastNumberIn(text, result.pattern, where);
  auto number = store::numberFromJson(text, result.field);
  if (number) return number;
  Error error = number.error();
  error.where = where;
  return error;
}

}  // namespace

ResultPlaces::ResultPlaces(const core::Case& a_case, const Resolve& resolve) {
  const auto remember = [&](const core::CaseResult& result) {
    if (result.source != core::ResultSource::File) return;
    const std::string full = resolve(result.path);
    files_[result.path] = {full, stampOf(full)};
  };
  remember(a_case);
  for (const core::CaseResult& one : a_case.further) remember(one);
}

core::Result<std::string> ResultPlaces::written(const std::string& path) const {
  constexpr std::uintmax_t kLargest = 1 << 20;
  const auto before = files_.find(path);
  if (before == files_.end() || before->second.full.empty())
    return Error{ErrorKind::NotApproved, "the file leads out of the study's folder", path,
                 "Have the pass write it into the study's folder, or approve the reading"};
  const std::string stamp = stampOf(before->second.full);
  if (stamp.empty())
    return Error{ErrorKind::Missing, "the pass did not write the file", path,
                 "Compare the path with the one that the program writes, seen from the study's folder"};
  if (stamp == before->second.stamp)
    return Error{ErrorKind::TooFew, "the file is still that of an earlier pass", path,
                 "See that the program writes it at every run"};
  return store::contentsOf(before->second.full, kLargest);
}

core::Result<double> ResultPlaces::numberOf(const core::CaseResult& result,
                                            const bench::CommandOutcome& outcome) const {
  constexpr const char* kOutput = "standard output";
  auto number = [&]() -> core::Result<double> {
    if (result.source == core::ResultSource::File) {
      const auto text = written(result.path);
      return text ? numberIn(*text, result, result.path) : text.error();
    }
    auto found = numberIn(outcome.output, result, kOutput);
    if (!found && found.error().kind == ErrorKind::Missing && !result.pattern.empty())
      if (auto said = numberIn(outcome.error_output, result, "standard error"); said) return said;
    return found;
  }();
  if (number) *number /= result.divide_by;
  return number;
}

}  // namespace session
