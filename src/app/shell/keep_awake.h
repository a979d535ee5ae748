#pragma once

#include <QDBusUnixFileDescriptor>
#include <QString>

namespace app {

/// Keeps the desktop from blanking, locking or sleeping while passes run: a screen saver is work that nobody ordered.
/// Asks the login manager; where there is none nothing happens.
class KeepAwake {
 public:
  /// Does nothing when it is as wanted already.
  void set(bool is_wanted, const QString& why);

 private:
  QDBusUnixFileDescriptor lock_;  // held open: the inhibition lasts as long
  bool is_wanted_ = false;
};

}  // namespace app
