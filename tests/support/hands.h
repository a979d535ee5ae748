#pragma once

#include <gtest/gtest.h>

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAccessible>
#include <QApplication>
#include <QButtonGroup>
#include <QComboBox>
#include <QListWidget>
#include <QTest>
#include <QTreeWidget>

#include "support/run_session.h"

namespace support {

/// How a person works a window: by the pointer. Each act is on a control that was found by what stands on it.
class Hands {
 public:
  virtual ~Hands() = default;
  virtual void press(QAbstractButton& button) { button.click(); }
  virtual void choose(QComboBox& box, int row) {
    box.setCurrentIndex(row);
    Q_EMIT box.activated(row);
  }
  virtual void choose(QTreeWidget& tree, QTreeWidgetItem& row) {
    tree.scrollToItem(&row);
    QTest::mouseClick(tree.viewport(), Qt::LeftButton, {}, tree.visualItemRect(&row).center());
  }
  virtual void choose(QListWidget& list, int row) {
    list.scrollToItem(list.item(row));
    QTest::mouseClick(list.viewport(), Qt::LeftButton, {}, list.visualItemRect(list.item(row)).center());
  }
  virtual void type(QWidget& field, const QString& text) {
    QTest::mouseClick(&field, Qt::LeftButton);
    QTest::keyClick(&field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(&field, text);
    QTest::keyClick(&field, Qt::Key_Tab);
  }
};

/// By the keyboard alone: every control is reached by Tab and worked by its keys.
class KeyboardHands : public Hands {
 public:
  void press(QAbstractButton& button) override {
    if (isOneOfMany(button)) return moveTo(button);
    key(button, Qt::Key_Space);
  }
  void choose(QComboBox& box, int row) override {
    key(box, Qt::Key_Down, Qt::AltModifier);
    QAbstractItemView* list = box.view();
    ASSERT_TRUE(waitUntil([&] { return list->isVisible(); }));
    go(*list, row);
    QTest::keyClick(list, Qt::Key_Return);
  }
  void choose(QTreeWidget& tree, QTreeWidgetItem& row) override {
    reach(tree);
    for (int i = 0; i < 200 && tree.currentItem() != &row; ++i)
      QTest::keyClick(&tree, i == 0 ? Qt::Key_Home : Qt::Key_Down);
    EXPECT_EQ(tree.currentItem(), &row);
  }
  void choose(QListWidget& list, int row) override {
    reach(list);
    go(list, row);
  }
  void type(QWidget& field, const QString& text) override {
    key(field, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(QApplication::focusWidget(), text);
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
  }

 private:
  static bool isOneOfMany(const QAbstractButton& button) {
    return button.isCheckable() && (button.autoExclusive() || (button.group() && button.group()->exclusive()));
  }
  /// Of buttons of which one is pressed, that one is reached by Tab and the others from there by arrows.
  static void moveTo(QAbstractButton& button) {
    if (button.isChecked()) return;
    for (auto* one : button.parentWidget()->findChildren<QAbstractButton*>(Qt::FindDirectChildrenOnly))
      if (isOneOfMany(*one) && (one->focusPolicy() & Qt::TabFocus) && one->isChecked()) reach(*one);
    for (const auto arrow : {Qt::Key_Down, Qt::Key_Up})
      for (int i = 0; i < 12 && !isThere(button); ++i) QTest::keyClick(QApplication::focusWidget(), arrow);
    EXPECT_TRUE(button.isChecked()) << button.objectName().toStdString();
  }
  static void go(QAbstractItemView& list, int row) {
    QTest::keyClick(&list, Qt::Key_Home);
    for (int i = 0; i < 200 && list.currentIndex().row() != row; ++i) QTest::keyClick(&list, Qt::Key_Down);
    EXPECT_EQ(list.currentIndex().row(), row);
  }
  static bool isThere(const QWidget& control) {
    const QWidget* focus = QApplication::focusWidget();
    return focus && (focus == &control || control.isAncestorOf(focus) || control.focusProxy() == focus);
  }
  /// By Tab from wherever the focus is: every control lies in the one round.
  static void reach(QWidget& control) {
    control.window()->activateWindow();
    QApplication::setActiveWindow(control.window());
    QString way;  // the last controls that it came by
    for (int i = 0; i < 300 && !isThere(control); ++i) {
      QWidget* focus = QApplication::focusWidget();
      QTest::keyClick(focus ? focus : control.window(), Qt::Key_Tab);
      if (i >= 260 && QApplication::focusWidget()) way += QLatin1Char(' ') + QApplication::focusWidget()->objectName();
    }
    ASSERT_TRUE(isThere(control)) << control.objectName().toStdString()
                                  << " cannot be reached by Tab, which goes round:" << way.toStdString();
  }
  static void key(QWidget& control, Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
    reach(control);
    if (isThere(control)) QTest::keyClick(QApplication::focusWidget(), key, modifiers);
  }
};

/// By what a screen reader is told: every control is one of the tree, with a role that says how it is worked and a
/// name; it is worked by the acts that the tree offers, and by keys where it offers none.
class ReadersHands final : public KeyboardHands {
 public:
  explicit ReadersHands(const QWidget& window) : window_(window) {}
  void press(QAbstractButton& button) override {
    auto* heard = hear(button, {QAccessible::Button, QAccessible::CheckBox, QAccessible::RadioButton});
    ASSERT_NE(heard, nullptr);
    ASSERT_NE(heard->actionInterface(), nullptr);
    const QStringList acts = heard->actionInterface()->actionNames();
    const bool is_toggled = acts.contains(QAccessibleActionInterface::toggleAction());
    if (is_toggled) {
      heard->actionInterface()->doAction(QAccessibleActionInterface::toggleAction());  // at once
    } else {
      bool is_clicked = false;  // a button that is pressed so goes down and comes up as for a finger, later
      const auto listening = QObject::connect(&button, &QAbstractButton::clicked, [&is_clicked] { is_clicked = true; });
      heard->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
      EXPECT_TRUE(waitUntil([&is_clicked] { return is_clicked; })) << button.objectName().toStdString();
      QObject::disconnect(listening);
    }
    QCoreApplication::processEvents();
  }
  void choose(QComboBox& box, int row) override {
    ASSERT_NE(hear(box, {QAccessible::ComboBox}), nullptr);
    KeyboardHands::choose(box, row);
  }
  void choose(QTreeWidget& tree, QTreeWidgetItem& row) override {
    ASSERT_NE(hear(tree, {QAccessible::Tree}), nullptr);
    KeyboardHands::choose(tree, row);
  }
  void choose(QListWidget& list, int row) override {
    ASSERT_NE(hear(list, {QAccessible::List}), nullptr);
    KeyboardHands::choose(list, row);
  }
  void type(QWidget& field, const QString& text) override {
    ASSERT_NE(hear(field, {QAccessible::EditableText, QAccessible::SpinBox}), nullptr);
    KeyboardHands::type(field, text);
  }

 private:
  /// The control as the tree tells it, which must hold it, show it and name it.
  [[nodiscard]] QAccessibleInterface* hear(QWidget& control, const std::vector<QAccessible::Role>& roles) const {
    QAccessibleInterface* heard =
        within(QAccessible::queryAccessibleInterface(const_cast<QWidget*>(&window_)), control);
    EXPECT_NE(heard, nullptr) << control.objectName().toStdString() << " is not in the tree";
    if (!heard) return nullptr;
    EXPECT_FALSE(heard->text(QAccessible::Name).isEmpty()) << control.objectName().toStdString() << " has no name";
    EXPECT_NE(std::find(roles.begin(), roles.end(), heard->role()), roles.end())
        << control.objectName().toStdString() << " has the role " << heard->role();
    return heard;
  }
  static QAccessibleInterface* within(QAccessibleInterface* at, const QWidget& control) {
    if (!at || at->state().invisible) return nullptr;
    if (at->object() == &control) return at;
    for (int i = 0; i < at->childCount(); ++i)
      if (QAccessibleInterface* found = within(at->child(i), control)) return found;
    return nullptr;
  }
  const QWidget& window_;
};

}  // namespace support
