#pragma once

#include <string>

#include "store/study/database.h"

namespace store {

/// The file of the register, brought up to date; made where it is missing. Errors as Database
[[nodiscard]] core::Result<Database> openRegister(const std::string& path);

/// As BenchNames::now. Errors as Database
[[nodiscard]] core::Result<std::string> benchNow(Database& database, const std::string& name);

}  // namespace store
