#include "session/approvals.h"

#include <filesystem>
#include <fstream>
#include <set>

#include <nlohmann/json.hpp>

namespace session {
namespace {

std::string keyOf(const core::ExactCommand& exact, const std::string& folder) {
  nlohmann::ordered_json key{{"folder", folder}, {"environment", exact.environment}, {"command", exact.command}};
  if (exact.write) key["write"] = {exact.write->path, exact.write->value};
  return key.dump(-1, ' ', false, nlohmann::ordered_json::error_handler_t::replace);
}

}  // namespace

std::vector<core::ExactCommand> Approvals::missing(const std::vector<core::ExactCommand>& commands,
                                                   const std::string& folder) const {
  std::set<std::string> approved;
  std::ifstream file(path_);
  for (std::string line; std::getline(file, line);) approved.insert(line);
  std::vector<core::ExactCommand> missing;
  for (const core::ExactCommand& exact : commands)
    if (!approved.contains(keyOf(exact, folder))) missing.push_back(exact);
  return missing;
}

core::Status Approvals::approve(const std::vector<core::ExactCommand>& commands, const std::string& folder) {
  std::error_code code;
  std::filesystem::create_directories(std::filesystem::path(path_).parent_path(), code);
  std::ofstream file(path_, std::ios::app);
  for (const core::ExactCommand& exact : missing(commands, folder)) file << keyOf(exact, folder) << '\n';
  file.flush();
  if (file) return core::Done{};
  return core::Error{core::ErrorKind::Io, "the approval cannot be kept", path_,
                     "Check that you may write there and that the disk is not full"};
}

}  // namespace session
