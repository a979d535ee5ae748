#include "session/far/reached_study.h"

#include <fcntl.h>
#include <unistd.h>

#include <algorithm>
#include <filesystem>

#include <nlohmann/json.hpp>

#include "session/user/output_file.h"
#include "store/files/regular_file.h"
#include "store/json/json_text.h"

namespace session {

using core::Error;
using core::ErrorKind;

namespace {

struct flock wholeFile(short kind) {
  struct flock lock {};
  lock.l_type = kind;
  lock.l_whence = SEEK_SET;
  return lock;
}

}  // namespace

core::Result<ReachedStudy> ReachedStudy::of(const UserFiles& files, const std::string& identity) {
  constexpr std::size_t kLongest = 64;
  const bool is_one = !identity.empty() && identity.size() <= kLongest &&
                      std::all_of(identity.begin(), identity.end(),
                                  [](char c) { return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'f') || c == '-'; });
  if (!is_one)
    return Error{ErrorKind::Malformed, "this is not the identity of a study", "study",
                 "Open the study anew at the desk"};
  return ReachedStudy(files.studies + "/reached/" + identity);
}

bool ReachedStudy::isThere() const {
  std::error_code code;
  return std::filesystem::exists(study(), code);
}

std::optional<pid_t> ReachedStudy::runner() const {
  // For reading: who watches the folder is woken when a file that was open for writing is closed.
  const int file = ::open(lockPath().c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW);
  if (file < 0) return std::nullopt;
  struct flock lock = wholeFile(F_WRLCK);
  const bool is_asked = ::fcntl(file, F_GETLK, &lock) == 0;
  ::close(file);
  return is_asked && lock.l_type != F_UNLCK ? std::optional(lock.l_pid) : std::nullopt;
}

core::Result<int> ReachedStudy::becomeRunner() const {
  const int file = ::open(lockPath().c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600);
  if (file < 0) return Error{ErrorKind::Io, "its folder cannot be written to", folder_, "Look at the disk there"};
  struct flock lock = wholeFile(F_WRLCK);
  if (::fcntl(file, F_SETLK, &lock) == 0) return file;
  ::close(file);
  return Error{ErrorKind::Busy, "its sheet runs already", folder_, "Wait for it, or stop it"};
}

core::Status ReachedStudy::give(const ReachedOrder& order) const {
  const nlohmann::json json{{"approved", order.is_approved},
                            {"digest", order.digest},
                            {"resumed", order.is_resumed},
                            {"repeat_failed", order.repeats_failed},
                            {"person", order.person}};
  return writeOutput(orderPath(), store::jsonText(json, 1) + "\n");
}

core::Result<ReachedOrder> ReachedStudy::order() const {
  constexpr std::uintmax_t kLargest = 4096;
  const auto text = store::contentsOf(orderPath(), kLargest);
  if (!text) return text.error();
  const auto json = nlohmann::json::parse(*text, nullptr, false);
  const auto is = [&](const char* name) { return json.is_object() && json.value(name, nlohmann::json()) == true; };
  if (!json.is_object() || !json.value("digest", nlohmann::json()).is_string())
    return Error{ErrorKind::Malformed, "this is not an order of ours", orderPath(),
                 "Start the sheet from the desk again"};
  const auto person = json.value("person", nlohmann::json());
  return ReachedOrder{is("approved"), json["digest"].get<std::string>(), is("resumed"), is("repeat_failed"),
                      person.is_string() ? person.get<std::string>() : std::string()};
}

}  // namespace session
