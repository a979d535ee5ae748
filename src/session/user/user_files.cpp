#include "session/user/user_files.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>
#include <filesystem>

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

core::Result<std::string> baseOf(const char* variable, const char* below_home) {
  // A relative path is to be ignored (XDG Base Directory Specification).
  const char* set = std::getenv(variable);
  if (set && *set == '/') return std::string(set) + "/iron-lever";
  const char* home = std::getenv("HOME");
  if (home && *home == '/') return std::string(home) + below_home + "/iron-lever";
  return Error{ErrorKind::Missing, "nobody says where your own files are", "HOME",
               std::string("Set HOME to your own folder, or ") + variable + " to one for this program's records"};
}

}  // namespace

core::Result<UserFiles> UserFiles::ofThisUser() {
  const auto state = baseOf("XDG_STATE_HOME", "/.local/state");
  const auto data = baseOf("XDG_DATA_HOME", "/.local/share");
  if (!state) return state.error();
  if (!data) return data.error();
  return UserFiles{*state + "/approved-commands.jsonl", *state + "/settings-to-put-back.jsonl",
                   *data + "/benches.sqlite",           *state + "/running-studies.txt",
                   *state + "/second-copies.json",      *data + "/studies",
                   *data + "/cabinet.sqlite",           *data + "/report-templates.json",
                   *data + "/practice.jsonl",           *state + "/at-work.txt",
                   "/run/iron-lever/root-facts"};
}

UserFiles UserFiles::in(const std::string& folder) {
  return {folder + "/approved-commands.jsonl",
          folder + "/settings-to-put-back.jsonl",
          folder + "/benches.sqlite",
          folder + "/running-studies.txt",
          folder + "/second-copies.json",
          folder + "/studies",
          folder + "/cabinet.sqlite",
          folder + "/report-templates.json",
          folder + "/practice.jsonl",
          folder + "/at-work.txt",
          folder + "/root-facts"};
}

core::Status checkOwnFile(const std::string& path) {
  struct stat status {};
  if (::lstat(path.c_str(), &status) != 0) return core::Done{};
  const bool is_ours = status.st_uid == ::geteuid() && (status.st_mode & (S_IWGRP | S_IWOTH)) == 0;
  if (S_ISREG(status.st_mode) && is_ours) return core::Done{};
  return Error{ErrorKind::Denied, "others may write to this file, so it is not relied on", path,
               "Make it yours alone: chown it to you and chmod 600 it, or remove it"};
}

core::Status makeOwnFile(const std::string& path) {
  if (auto own = checkOwnFile(path); !own) return own;
  std::error_code code;
  const auto folder = std::filesystem::path(path).parent_path();
  if (std::filesystem::create_directories(folder, code))
    std::filesystem::permissions(folder, std::filesystem::perms::owner_all, code);
  const int file = ::open(path.c_str(), O_WRONLY | O_CREAT | O_CLOEXEC | O_NOFOLLOW, S_IRUSR | S_IWUSR);
  if (file >= 0) {
    ::close(file);
    return core::Done{};
  }
  return Error{ErrorKind::Io, "a file of this program's own cannot be kept", path,
               "Check that you may write there and that the disk is not full"};
}

}  // namespace session
