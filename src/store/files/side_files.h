#pragma once

#include <string>

#include "core/values/result.h"

namespace store {

/// What SQLite would take for its own beside a database: a journal that it rolls back, a write-ahead log, shared
/// memory. A stranger's could make it write into, or delete, any file of the user. Only a rollback journal that this
/// program may have left is let be: a plain file under one name that names no other file. Errors  ForeignFile for any
/// other Source  https://www.sqlite.org/fileformat2.html, section 3
[[nodiscard]] core::Status checkSideFiles(const std::string& database_path);

}  // namespace store
