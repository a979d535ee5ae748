#pragma once

#include <QObject>
#include <QSocketNotifier>
#include <memory>

struct xcb_connection_t;

namespace session {

/// A key that is heard while another program has the keyboard: whoever plays need not leave the program to say where
/// the counted stretch begins and ends. Asks the X server for it, over a connection of its own; where there is none, or
/// another program holds the key, nothing is heard.
class GlobalKey final : public QObject {
  Q_OBJECT
 public:
  /// As it stands on a keyboard.
  static QString name() { return QStringLiteral("Ctrl+Alt+Space"); }

  /// `display` as $DISPLAY names it; empty: the one of the environment.
  explicit GlobalKey(QByteArray display = {}, QObject* parent = nullptr);
  ~GlobalKey() override;

  /// Takes the key or gives it back; no program else hears it in between. Says whether it is held.
  bool hold(bool is_wanted);
  [[nodiscard]] bool isHeld() const { return notifier_ != nullptr; }

 Q_SIGNALS:
  void pressed();

 private:
  bool grab();
  void read();

  struct Closer {
    void operator()(xcb_connection_t* connection) const;
  };
  QByteArray display_;
  std::unique_ptr<xcb_connection_t, Closer> connection_;
  std::unique_ptr<QSocketNotifier> notifier_;
};

}  // namespace session
