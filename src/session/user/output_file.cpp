#include "session/user/output_file.h"

#include <QFileInfo>
#include <QSaveFile>

#include "store/study/schema.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

}  // namespace

core::Status checkOutput(const std::string& path) {
  const QFileInfo place(QString::fromStdString(path));
  if (path.empty() || path.back() == '/' || (place.exists() && !place.isFile()))
    return Error{ErrorKind::Malformed, "this is not a regular file", path, "Name a file to write to"};
  // Whatever the program could open as a study, damaged or from a newer version, stays what it is.
  const core::Status header = store::checkHeader(path);
  const bool is_study =
      header || header.error().kind == ErrorKind::NewerFile || header.error().kind == ErrorKind::DamagedFile;
  if (!place.exists() || !is_study) return core::Done{};
  return Error{ErrorKind::NotAllowed, "a study lies there; it was left as it is", path, "Choose another name"};
}

core::Status writeOutput(const std::string& path, const std::function<bool(QIODevice&)>& write) {
  if (auto checked = checkOutput(path); !checked) return checked;
  QSaveFile file(QString::fromStdString(path));
  if (file.open(QIODevice::WriteOnly) && write(file) && file.commit()) return core::Done{};
  return Error{ErrorKind::Io, "the file cannot be written", path, "Check the folder and its free space"};
}

core::Status writeOutput(const std::string& path, std::string_view content) {
  return writeOutput(path, [&](QIODevice& file) {
    const auto size = static_cast<qint64>(content.size());
    return file.write(content.data(), size) == size;
  });
}

}  // namespace session
