#include "session/sheet/second_copy.h"

#include <QDir>
#include <QTemporaryDir>
#include <memory>

#include "session/user/scratch.h"

namespace session {

core::Status SecondCopy::setFolder(const std::string& folder) {
  if (folder.empty()) return folders_.setFolder(open_.absolutePath(), folder);
  // As it is seen from here: the next program may stand elsewhere.
  const std::string whole = QDir(QString::fromStdString(folder)).absolutePath().toStdString();
  if (auto copied = open_.file().copyTo(copyPath(open_.path(), whole)); !copied) return copied;
  return folders_.setFolder(open_.absolutePath(), whole);
}

void SecondCopy::make() {
  if (folder().empty()) return;
  if (!background_.isBusy()) return makeNow();
  if (std::exchange(is_asked_, true)) return;
  // What was under way then is done; whoever else waits is not waited for: two that wait for each other never end.
  background_.run<bool>([] { return true; },
                        [this](bool) {
                          is_asked_ = false;
                          makeNow();
                        });
}

void SecondCopy::makeNow() {
  const std::string second = folder();
  if (second.empty()) return;
  std::shared_ptr<QTemporaryDir> near_by = makeScratch();
  if (!near_by) return tell(core::Error{core::ErrorKind::Io, "the copy could not be made", second, "Free some space"});
  const std::string snapshot = near_by->filePath(QStringLiteral("copy.ironlever")).toStdString();
  if (const auto made = open_.file().snapshotTo(snapshot); !made) return tell(made);
  background_.run<core::Status>(
      [near_by, snapshot, target = copyPath(open_.path(), second)] { return store::placeCopy(snapshot, target); },
      [this](const core::Status& copied) { tell(copied); });
}

// The last pass is often filed while the copy of the one before is still on its way.
SecondCopy::~SecondCopy() {
  if (const std::string second = folder(); is_asked_ && !second.empty())
    (void)open_.file().copyTo(copyPath(open_.path(), second));
}

// That the copy is old is said once, in the logbook.
void SecondCopy::tell(const core::Status& copied) {
  if (copied.ok() == is_current_) return;
  is_current_ = copied.ok();
  (void)open_.note(core::NoteMade{"", copied ? "The second folder gets copies again" : copied.error().sentence()});
}

}  // namespace session
