#include "session/sheet/study_move.h"

#include <filesystem>

#include "session/user/file_lock.h"

namespace session {

core::Status moveStudy(Session& session, const std::string& path) {
  OpenStudy& open = session.open();
  if (const auto others = session.open().openElsewhere(); !others.empty())
    return core::Error{core::ErrorKind::Busy, "the study is open elsewhere too: " + others.front(), open.path(),
                       "Close it there first"};
  const auto lock = FileLock::acquire(open.path(), open.person());
  if (!lock) return lock.error();
  const auto stays = [&](const std::string& why) {
    return core::Error{core::ErrorKind::Io, "the study could not be moved and stays where it was: " + why, path,
                       "Choose a name that is not taken, in a folder that you may write to"};
  };
  std::error_code code;
  if (std::filesystem::exists(path, code)) return stays("something of that name is there");
  if (auto copied = open.file().copyTo(path); !copied) return copied;
  if (std::filesystem::remove(open.path(), code)) return core::Done{};
  const std::string why = code.message();
  std::filesystem::remove(path, code);
  return stays(why);
}

}  // namespace session
