// Pictures that a study keeps.
#include "store/study/study_file.h"

namespace store {

using core::Error;
using core::ErrorKind;
using core::Status;

Status StudyFile::attach(std::int64_t pass_id, const Attachment& attachment) {
  return database_.inTransaction([&]() -> Status {
    auto statement = database_.prepare("INSERT INTO attachment (pass_id, name, bytes) VALUES (?1, ?2, ?3)");
    if (!statement) return statement.error();
    statement->bind(1, pass_id).bind(2, std::string_view(attachment.name)).bind(3, Blob{attachment.bytes});
    return insertRow("attachment", *statement);
  });
}

core::Result<std::vector<StudyFile::Attachment>> StudyFile::attachments(std::int64_t pass_id) {
  auto statement = database_.prepare("SELECT name, bytes FROM attachment WHERE pass_id = ?1 ORDER BY id");
  if (!statement) return statement.error();
  statement->bind(1, pass_id);
  std::vector<Attachment> all;
  for (auto row = statement->step();; row = statement->step()) {
    if (!row) return row.error();
    if (!*row) return all;
    all.push_back({statement->text(0), std::string(statement->blob(1))});
  }
}

Status StudyFile::keepPicture(const std::string& digest, const std::string& bytes) {
  const auto known = pictureBytes(digest);
  if (known) return core::Done{};
  if (known.error().kind != ErrorKind::Missing) return known.error();
  auto kept = database_.prepare("INSERT INTO picture (digest, bytes) VALUES (?1, ?2)");
  if (!kept) return kept.error();
  return insertRow("picture", kept->bind(1, std::string_view(digest)).bind(2, Blob{bytes}));
}

Status StudyFile::addEvent(const Event& event, const std::string& picture) {
  return database_.inTransaction([&]() -> Status {
    if (const auto* observed = std::get_if<core::Observed>(&event.act); observed && !picture.empty())
      if (auto kept = keepPicture(observed->picture, picture); !kept) return kept;
    return insertEvent(event);
  });
}

Status StudyFile::addVisitPicture(const VisitPicture& picture, const std::string& bytes) {
  return database_.inTransaction([&]() -> Status {
    if (auto kept = keepPicture(picture.digest, bytes); !kept) return kept;
    auto statement = database_.prepare(
        "INSERT INTO visit_picture (visit_id, digest, name, at_ms, person) VALUES (?1, ?2, ?3, ?4, ?5)");
    if (!statement) return statement.error();
    statement->bind(1, picture.visit_id)
        .bind(2, std::string_view(picture.digest))
        .bind(3, std::string_view(picture.name))
        .bind(4, picture.at_ms)
        .bind(5, std::string_view(picture.person));
    return insertRow("visit_picture", *statement);
  });
}

core::Result<std::vector<StudyFile::VisitPicture>> StudyFile::visitPictures() {
  std::vector<VisitPicture> all;
  const auto read = forEachRow(database_, "SELECT visit_id, digest, name, at_ms, person FROM visit_picture ORDER BY id",
                               [&](const Statement& row) -> Status {
                                 all.push_back({row.integer(0), row.text(1), row.text(2), row.integer(3), row.text(4)});
                                 return core::Done{};
                               });
  if (!read) return read.error();
  return all;
}

core::Result<std::string> StudyFile::pictureBytes(const std::string& digest) {
  auto statement = database_.prepare("SELECT bytes FROM picture WHERE digest = ?1");
  if (!statement) return statement.error();
  const auto row = statement->bind(1, std::string_view(digest)).step();
  if (!row) return row.error();
  if (!*row) return Error{ErrorKind::Missing, "the study has no such picture", path(), "Open the study again"};
  return std::string(statement->blob(0));
}

}  // namespace store
