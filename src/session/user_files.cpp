#include "session/user_files.h"

#include <cstdlib>

namespace session {
namespace {

std::string baseOf(const char* variable, const char* below_home) {
  const char* set = std::getenv(variable);
  const char* home = std::getenv("HOME");
  const std::string base = set && *set ? std::string(set) : std::string(home ? home : ".") + below_home;
  return base + "/iron-lever";
}

}  // namespace

UserFiles UserFiles::ofThisUser() {
  const std::string state = baseOf("XDG_STATE_HOME", "/.local/state");
  return {state + "/approved-commands.jsonl",
          state + "/settings-to-put-back.jsonl",
          baseOf("XDG_DATA_HOME", "/.local/share") + "/benches.sqlite",
          state + "/running-studies.txt",
          state + "/second-copies.json",
          "/run/iron-lever/root-facts"};
}

UserFiles UserFiles::in(const std::string& folder) {
  return {folder + "/approved-commands.jsonl", folder + "/settings-to-put-back.jsonl", folder + "/benches.sqlite",
          folder + "/running-studies.txt",     folder + "/second-copies.json",         folder + "/root-facts"};
}

}  // namespace session
