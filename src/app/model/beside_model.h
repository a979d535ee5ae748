#pragma once

#include <QObject>
#include <QString>
#include <filesystem>
#include <memory>
#include <optional>

#include "core/beside/beside.h"
#include "session/cabinet/studies_read.h"
#include "session/user/background.h"

namespace app {

/// Several studies beside each other, as the window asks for them. They are read once, beside the window; what is asked
/// of them may change.
class BesideModel final : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  /// Reads the studies of an order, seen from a folder, and lays them beside each other.
  void lay(const core::BesideOrder& order, const std::filesystem::path& folder = {});
  /// The same studies, asked otherwise.
  void ask(const core::BesideOrder& order);

  [[nodiscard]] bool isReading() const { return is_reading_; }
  /// Why nothing can be said, or what is to be known before it is believed; empty where there is nothing of it.
  [[nodiscard]] const QString& told() const { return told_; }
  /// Nothing while they are read, or where nothing can be said.
  [[nodiscard]] const std::optional<core::Beside>& beside() const { return beside_; }
  [[nodiscard]] std::span<const core::StudyAside> studies() const;
  [[nodiscard]] const core::BesideOrder& order() const { return order_; }
  /// Where the first study lies; empty without one.
  [[nodiscard]] QString firstPath() const;

  /// What can be asked of these studies.
  [[nodiscard]] QStringList levels() const;  ///< that all of them have
  [[nodiscard]] QStringList cases() const;   ///< that all of them have
  /// Facts along which a table can be laid, by id; what people look for first stands first.
  [[nodiscard]] std::vector<std::pair<QString, QString>> axes() const;

  /// The document that names the studies as seen from `path`, page, picture or numbers, by the ending of the path.
  /// Errors  OutOfRange for an ending that nothing is written with; those of writing
  core::Status save(const QString& path) const;
  /// A document of that kind. Errors  those of reading it
  core::Status open(const QString& path);

 Q_SIGNALS:
  void changed();

 private:
  using Read = std::shared_ptr<const core::Result<session::StudiesRead>>;
  core::BesideOrder order_;
  std::filesystem::path folder_;
  Read read_;
  std::optional<core::Beside> beside_;
  QString told_;
  bool is_reading_ = false;
  session::Background reading_;
};

}  // namespace app
