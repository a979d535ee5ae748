#include "app/shell/keep_awake.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusReply>

namespace app {

void KeepAwake::set(bool is_wanted, const QString& why) {
  if (std::exchange(is_wanted_, is_wanted) == is_wanted) return;
  lock_ = {};
  if (!is_wanted) return;
  QDBusConnection bus = QDBusConnection::systemBus();
  if (!bus.isConnected()) return;
  QDBusMessage ask = QDBusMessage::createMethodCall(
      QStringLiteral("org.freedesktop.login1"), QStringLiteral("/org/freedesktop/login1"),
      QStringLiteral("org.freedesktop.login1.Manager"), QStringLiteral("Inhibit"));
  ask << QStringLiteral("idle:sleep") << QStringLiteral("Iron Lever") << why << QStringLiteral("block");
  constexpr int kPatienceMs = 500;
  const QDBusReply<QDBusUnixFileDescriptor> reply = bus.call(ask, QDBus::Block, kPatienceMs);
  if (reply.isValid()) lock_ = reply.value();
}

}  // namespace app
