#include "widgets/theme.h"

#include <QApplication>
#include <QDir>
#include <QFile>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleOptionViewItem>
#include <QSvgRenderer>

namespace oa::app {
namespace {

Theme current;

Theme lightTheme() {
  return {QColor(0xF3, 0xF0, 0xE9),
          QColor(0xE9, 0xE5, 0xDB),
          QColor(0xFD, 0xFC, 0xF9),
          QColor(0x26, 0x23, 0x1F),
          QColor(0x69, 0x63, 0x59),
          QColor(0xD3, 0xCC, 0xBE),
          QColor(0xB6, 0x3D, 0x24),
          QColor(0x1B, 0x6E, 0x6A),
          QColor(0x44, 0x71, 0x33),
          QColor(0x8C, 0x5A, 0x10),
          QColor(0x6E, 0x6E, 0x6E),
          QColor(0xFF, 0xFF, 0xFF),
          false};
}

Theme darkTheme() {
  return {QColor(0x2B, 0x29, 0x26),
          QColor(0x23, 0x21, 0x1F),
          QColor(0x35, 0x32, 0x2E),
          QColor(0xF0, 0xEB, 0xE1),
          QColor(0xB0, 0xA8, 0x9B),
          QColor(0x4A, 0x46, 0x40),
          QColor(0xF0, 0x7C, 0x5E),
          QColor(0x62, 0xBF, 0xB6),
          QColor(0x96, 0xC4, 0x7C),
          QColor(0xE0, 0xB0, 0x64),
          QColor(0x4A, 0x4A, 0x4A),
          QColor(0x22, 0x14, 0x10),
          true};
}

QString styleSheet(const Theme& t) {
  QString css = QStringLiteral(R"(
QWidget { color: $ink; }
QMainWindow, QDialog { background: $panel; }
QToolTip { background: $card; color: $ink; border: 1px solid $line; padding: 4px 6px; }
QMenu { background: $card; border: 1px solid $line; padding: 6px; }
QMenu::item { padding: 6px 28px 6px 14px; border-radius: 5px; }
QMenu::item:selected { background: $hover; }
QMenu::item:disabled { color: $muted; }
QMenu::separator { height: 1px; background: $line; margin: 5px 8px; }
QPushButton { background: $card; border: 1px solid $line; border-radius: 6px; padding: 5px 12px; min-height: 18px; }
QPushButton:hover { background: $hover; }
QPushButton:checked { background: $moving; border-color: $lagoon; color: $lagoon; }
QPushButton:focus, QToolButton:focus, QComboBox:focus, QCheckBox:focus { border: 1.5px solid $lagoon; }
QPushButton:disabled { color: $muted; background: $panel; }
QPushButton#primary { background: $persimmon; color: $onAccent; border: 1px solid $persimmon; font-weight: 600; }
QPushButton#primary:hover { background: $persimmonHover; }
QPushButton#primary:focus { border: 2px solid $ink; }
QPushButton#link:focus, QPushButton[link="true"]:focus, QPushButton#placeUnit:focus { border: 1.5px solid $lagoon; }
QPushButton#primary:disabled { background: $line; border-color: $line; color: $muted; }
QPushButton[quiet="true"] { background: transparent; border: 1px solid transparent; padding: 5px 9px; }
QPushButton[quiet="true"]:hover { background: $hover; }
QPushButton[quiet="true"]:focus { border: 1.5px solid $lagoon; }
QPushButton#link, QPushButton[link="true"], QPushButton#placeUnit { background: transparent; border: 1px solid transparent; color: $persimmon; font-weight: 600; padding: 3px 6px; }
QPushButton#link:hover, QPushButton[link="true"]:hover, QPushButton#placeUnit:hover { background: $hover; }
QPushButton::menu-indicator { width: 0px; image: none; }
QToolButton { background: transparent; border: 1.5px solid transparent; border-radius: 5px; padding: 3px; }
QToolButton:hover { background: $hover; }
QToolButton:checked { background: $card; }
QToolButton#allItems, QToolButton#itemsFromPalette, QToolButton#editOutline, QToolButton#chooseCopies, QToolButton#spreadLine { color: $persimmon; font-weight: 600; padding: 3px 6px; }
QToolButton#sectionHeading { color: $muted; padding: 1px 4px 1px 0px; }
QToolButton#allItems:checked, QToolButton#editOutline:checked, QToolButton#chooseCopies:checked { background: $hover; border: 1.5px solid $persimmon; }
QToolButton::menu-indicator { image: none; }
QToolButton#leader, QToolButton#formulaJoint, QToolButton#formulaFunctions { background: $card; border: 1px solid $line; border-radius: 6px; padding: 3px 22px 3px 8px; min-height: 18px; }
QToolButton#leader:focus, QToolButton#formulaJoint:focus, QToolButton#formulaFunctions:focus { border: 1.5px solid $lagoon; }
QToolButton#leader::menu-indicator, QToolButton#formulaJoint::menu-indicator, QToolButton#formulaFunctions::menu-indicator { image: url($arrow); width: 13px; height: 13px; subcontrol-origin: padding; subcontrol-position: right center; right: 6px; }
QComboBox { background: $card; border: 1px solid $line; border-radius: 6px; padding: 3px 8px; min-height: 18px; }
QComboBox:focus { border: 1.5px solid $lagoon; background: $moving; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox::down-arrow { image: url($arrow); width: 13px; height: 13px; }
QComboBox QAbstractItemView { background: $card; border: 1px solid $line; selection-background-color: $hover; selection-color: $ink; outline: 0; }
QPlainTextEdit { background: $card; border: 1px solid $line; border-radius: 6px; padding: 2px 3px; selection-background-color: $lagoon; selection-color: $paper; }
QLineEdit, QSpinBox, QDoubleSpinBox { background: $card; border: 1px solid $line; border-radius: 6px; padding: 3px 7px; min-height: 18px; selection-background-color: $lagoon; selection-color: $paper; }
QLineEdit:focus, QPlainTextEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus { border: 1.5px solid $lagoon; }
QCheckBox { spacing: 8px; border: 1.5px solid transparent; border-radius: 4px; }
QCheckBox::indicator { width: 15px; height: 15px; border: 1px solid $muted; border-radius: 4px; background: $card; }
QCheckBox::indicator:checked { background: $lagoon; border-color: $lagoon; image: url(:/oa/check); }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QScrollBar:vertical { width: 9px; background: transparent; margin: 2px; }
QScrollBar::handle:vertical { background: $line; border-radius: 3px; min-height: 28px; }
QScrollBar::handle:vertical:hover { background: $muted; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background: none; height: 0; width: 0; }
QScrollBar:horizontal { height: 0; }
QProgressBar { background: $panel; border: 1px solid $line; border-radius: 5px; height: 10px; text-align: center; }
QProgressBar::chunk { background: $lagoon; border-radius: 4px; }
QListWidget, QTreeWidget { background: transparent; border: none; outline: 0; }
QListWidget::indicator { width: 15px; height: 15px; border: 1px solid $muted; border-radius: 4px; background: $card; }
QListWidget::indicator:checked { background: $lagoon; border-color: $lagoon; image: url(:/oa/check); }
QListWidget#fits, QListWidget#history { background: $card; border: 1px solid $line; border-radius: 6px; padding: 3px; }
QListWidget#history::item { padding: 2px 5px; border-radius: 4px; }
QListWidget#history::item:selected, QListWidget#helpList::item:selected { background: $moving; color: $ink; }
QListWidget#helpList::item { padding: 2px; border-radius: 4px; }
QListWidget#fits::item { padding: 5px 7px; border-radius: 4px; color: $ink; }
QListWidget#fits::item:selected { background: $moving; color: $ink; }
QTableWidget, QTableView { background: $card; border: 1px solid $line; border-radius: 6px; gridline-color: $line; outline: 0; }
QTableWidget::item:selected, QTableView::item:selected { background: $moving; color: $ink; }
QTableView::item { padding: 0px 7px; border-bottom: 1px solid $panel; color: $ink; }
QTableView QSpinBox, QTableView QDoubleSpinBox { border-radius: 0px; padding: 0px 4px; min-height: 0px; }
QTableWidget QLineEdit { border-radius: 0px; padding: 0px 4px; min-height: 0px; }
QHeaderView { background: transparent; }
QHeaderView::section { background: $panel; color: $muted; border: none; border-right: 1px solid $line; border-bottom: 1px solid $line; padding: 3px 10px; }
QTableCornerButton::section { background: $panel; border: none; }
QMenuBar { background: transparent; border: none; padding: 0; }
QMenuBar::item { background: transparent; padding: 5px 8px; border-radius: 5px; }
QMenuBar::item:selected, QMenuBar::item:pressed { background: $hover; }
QSplitter::handle { background: transparent; image: none; }
QSplitter::handle:horizontal { border-left: 1px solid $line; }
QSplitter::handle:vertical { border-top: 1px solid $line; }
QSplitter::handle:hover { background: $hover; }
QFrame#paceEditor { background: $card; border: 1px solid $line; }
QFrame#hairline { background: $line; border: none; }
QLabel#muted, QLabel[muted="true"] { color: $muted; }
QLabel#muted[problem="true"] { color: $persimmon; }
QToolButton[problem="true"] { color: $persimmon; }
QLabel#dropHint { background: $ink; color: $paper; border-radius: 8px; padding: 9px 16px; font-weight: 600; }
QLabel#filePicture { border: 1px solid $line; border-radius: 4px; background: $panel; }
QLabel#heading { font-weight: 600; }
QLabel#title { font-weight: 700; font-size: 17px; }
QLabel#error { color: $persimmon; }
)");
  const auto set = [&](const char* name, const QColor& c) { css.replace(QLatin1Char('$') + QString::fromLatin1(name), c.name()); };
  // Longer names first, so that $persimmonHover is not taken for $persimmon.
  set("persimmonHover", blendOf(t.persimmon, t.ink, 0.12));
  set("persimmon", t.persimmon);
  set("onAccent", t.onAccent);
  set("hover", blendOf(t.panel, t.ink, 0.08));
  set("moving", blendOf(t.card, t.lagoon, 0.12));
  set("paper", t.paper);
  set("panel", t.panel);
  set("card", t.card);
  set("ink", t.ink);
  set("muted", t.muted);
  set("line", t.line);
  set("lagoon", t.lagoon);
  css.replace(QLatin1String("$arrow"),
              t.dark ? QStringLiteral(":/oa/resources/icons/arrow-dark.svg") : QStringLiteral(":/oa/resources/icons/arrow-light.svg"));
  css.replace(QLatin1String(":/oa/check"), QStringLiteral(":/oa/resources/icons/check.svg"));
  return css;
}

}  // namespace

const Theme& Theme::now() { return current; }

QColor blendOf(const QColor& a, const QColor& b, double share) {
  return QColor::fromRgbF(static_cast<float>(a.redF() + (b.redF() - a.redF()) * share),
                          static_cast<float>(a.greenF() + (b.greenF() - a.greenF()) * share),
                          static_cast<float>(a.blueF() + (b.blueF() - a.blueF()) * share));
}

void Theme::apply(QApplication& application, const QString& force) {
  static bool loaded = false;
  if (!loaded) {
    for (const char* file : {"Regular", "Medium", "SemiBold", "Bold"})
      QFontDatabase::addApplicationFont(QStringLiteral(":/oa/resources/fonts/Manrope-%1.ttf").arg(QLatin1String(file)));
    loaded = true;
  }
  const bool desktopDark = application.palette().color(QPalette::Window).lightness() < 110;
  const bool dark = force == QLatin1String("dark") || (force != QLatin1String("light") && desktopDark);
  current = dark ? darkTheme() : lightTheme();
  QPalette palette;
  palette.setColor(QPalette::Window, current.panel);
  palette.setColor(QPalette::Base, current.card);
  palette.setColor(QPalette::AlternateBase, current.paper);
  palette.setColor(QPalette::Text, current.ink);
  palette.setColor(QPalette::WindowText, current.ink);
  palette.setColor(QPalette::Button, current.card);
  palette.setColor(QPalette::ButtonText, current.ink);
  palette.setColor(QPalette::PlaceholderText, current.muted);
  palette.setColor(QPalette::Highlight, current.lagoon);
  palette.setColor(QPalette::HighlightedText, current.paper);
  palette.setColor(QPalette::ToolTipBase, current.card);
  palette.setColor(QPalette::ToolTipText, current.ink);
  application.setPalette(palette);
  application.setFont(uiFont());
  application.setStyleSheet(styleSheet(current));
}

void drawItemFocus(QPainter& painter, const QStyleOptionViewItem& option, const QRectF& card, double radius) {
  if (!(option.state & QStyle::State_HasFocus)) return;
  painter.setPen(QPen(current.lagoon, 2));
  painter.setBrush(Qt::NoBrush);
  painter.drawRoundedRect(card.adjusted(2.5, 2.5, -2.5, -2.5), radius - 2, radius - 2);
}

QFont uiFont(int pixels, int weight) {
  QFont font(QStringLiteral("Manrope"));
  font.setPixelSize(pixels);
  font.setWeight(static_cast<QFont::Weight>(weight));
  return font;
}

QPixmap iconPixmap(const QString& name, int size, const QColor& colour, qreal ratio) {
  QFile file(QStringLiteral(":/oa/resources/icons/%1.svg").arg(name));
  if (!file.open(QIODevice::ReadOnly)) return {};
  QByteArray svg = file.readAll();
  svg.replace("currentColor", colour.name().toLatin1());
  QSvgRenderer renderer(svg);
  QPixmap pixmap(QSize(size, size) * ratio);
  pixmap.setDevicePixelRatio(ratio);
  pixmap.fill(Qt::transparent);
  QPainter painter(&pixmap);
  renderer.render(&painter, QRectF(0, 0, size, size));
  return pixmap;
}

QIcon icon(const QString& name, const QColor& colour) {
  QIcon result;
  const QColor on = colour.isValid() ? colour : current.ink;
  for (const qreal ratio : {1.0, 2.0}) {
    result.addPixmap(iconPixmap(name, 16, on, ratio));
    result.addPixmap(iconPixmap(name, 16, current.muted, ratio), QIcon::Disabled);
  }
  return result;
}

}  // namespace oa::app
