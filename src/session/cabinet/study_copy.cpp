#include "session/cabinet/study_copy.h"

#include <QCryptographicHash>
#include <QFile>
#include <filesystem>

#include "store/study/schema.h"

namespace session {

using core::Error;
using core::ErrorKind;

core::Result<StudyCopy> StudyCopy::of(const std::string& path) {
  if (auto known = store::checkHeader(path); !known) return known.error();
  std::error_code code;
  if (std::filesystem::file_size(path + "-journal", code) > 0 && !code)
    return Error{ErrorKind::Busy, "a program files into it at this moment", path, "Read it again in a moment"};
  auto folder = std::make_unique<QTemporaryDir>();
  const std::string copy = folder->filePath(QStringLiteral("study")).toStdString();
  std::filesystem::copy_file(path, copy, code);
  if (!folder->isValid() || code)
    return Error{ErrorKind::Io, "it could not be copied to be read: " + code.message(), path, "Free disk space"};
  QFile bytes(QString::fromStdString(copy));
  QCryptographicHash hash(QCryptographicHash::Sha256);
  if (!bytes.open(QIODevice::ReadOnly) || !hash.addData(&bytes))
    return Error{ErrorKind::Io, "its copy could not be read", path, "Free disk space"};
  bytes.close();
  auto file = store::StudyFile::open(copy);
  if (!file) {
    Error error = file.error();
    error.where = path;
    return error;
  }
  return StudyCopy(std::move(folder), *std::move(file), hash.result().toHex().toStdString());
}

}  // namespace session
