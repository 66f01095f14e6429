// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/theme.h"

#include <QFontDatabase>
#include <QScrollArea>
#include <algorithm>
#include <cmath>

/// The resources lie in a static library: they must be asked for by name, outside any namespace.
static void loadResources() {
  Q_INIT_RESOURCE(app);
}

namespace ml {

const Theme& Theme::dusk() {
  static const Theme t{"dusk",    "#1f1f1f", "#2a2a2a", "#262626", "#353535", "#444444",
                       "#e6e6e6", "#a2a2a2", "#8c8c8c", "#e9a945", "#201a10", "#8fb4c4"};
  return t;
}

const Theme& Theme::paper() {
  static const Theme t{"paper",   "#e4e4e4", "#cdcdcd", "#ededed", "#fafafa", "#bdbdbd",
                       "#1d1d1d", "#5c5c5c", "#7c7c7c", "#a4600a", "#ffffff", "#2f6b82"};
  return t;
}

QString Theme::styleSheet() const {
  return QStringLiteral(R"(
    QWidget { background: transparent; color: %text; selection-background-color: %info; selection-color: %ground; }
    QMainWindow, QDialog, QMessageBox { background: %ground; }
    QToolTip { background: %raised; color: %text; border: 1px solid %line; padding: 4px 6px; }
    QFrame#bench, QFrame#header { background: %panel; }
    QFrame#bench { border-top: 1px solid %line; }
    QFrame#header { border-bottom: 1px solid %line; }
    QLabel[role="quiet"] { color: %quiet; }
    QLabel[role="tag"] { color: %text; border: 1px solid %line; border-radius: 3px; padding: 1px 7px; }
    QPushButton, QToolButton { background: %raised; border: 1px solid %line; border-radius: 5px; padding: 6px 12px;
      min-height: 20px; }
    QPushButton:hover, QToolButton:hover { border-color: %quiet; }
    QPushButton:pressed, QToolButton:pressed { background: %line; }
    QPushButton:checked, QToolButton:checked { border-color: %info; color: %info; }
    QPushButton:focus, QToolButton:focus, QComboBox:focus, QLineEdit:focus { border-color: %info; }
    QPushButton:disabled, QToolButton:disabled, QComboBox:disabled, QLineEdit:disabled { color: %faint;
      border-color: %line; }
    QPushButton[role="next"] { background: %accent; color: %onAccent; border-color: %accent; font-weight: bold;
      padding: 9px 20px; }
    QPushButton[role="next"]:disabled { background: %raised; color: %quiet; border-color: %line; }
    QPushButton[role="small"] { padding: 4px 9px; min-height: 18px; }
    QPushButton[role="small"]:checked { border-color: %accent; color: %text; }
    QToolButton[role="side"] { background: transparent; border: none; border-bottom: 2px solid transparent;
      border-radius: 0; padding: 2px 9px 3px 9px; color: %quiet; }
    QToolButton[role="side"]:checked { color: %text; border-bottom: 2px solid %info; }
    QPushButton[role="plain"], QToolButton[role="plain"] { background: transparent; border-color: transparent;
      padding: 6px 8px; }
    QPushButton[role="plain"]:hover, QToolButton[role="plain"]:hover { border-color: %line; }
    QTableWidget QToolButton[role="plain"] { padding: 0; min-height: 0; border: none; }
    QToolButton[role="flawed"] { border-style: dashed; border-color: %accent; }
    QToolButton[role="aside"] { color: %quiet; background: transparent; }
    QSpinBox, QDoubleSpinBox { background: %raised; border: 1px solid %line; border-radius: 5px; padding: 5px 9px;
      min-height: 20px; }
    QSpinBox:focus, QDoubleSpinBox:focus { border-color: %info; }
    QSpinBox:disabled, QDoubleSpinBox:disabled { color: %faint; }
    QFrame#framesSheet, QFrame#visitPage, QFrame#logbookPage, QFrame#practicePage { background: %ground; }
    QFrame#pathBar { background: %panel; border-bottom: 2px solid %accent; }
    QTextBrowser, QTextEdit { background: %panel; border: 1px solid %line; border-radius: 5px; padding: 6px; }
    QTextEdit:focus, QDateEdit:focus, QTimeEdit:focus { border-color: %info; }
    QDateEdit, QTimeEdit { background: %raised; border: 1px solid %line; border-radius: 5px; padding: 5px 6px;
      min-height: 20px; }
    QDateEdit::up-button, QDateEdit::down-button, QTimeEdit::up-button,
      QTimeEdit::down-button { width: 0; border: none; }
    QTableWidget#visitViews QComboBox, QTableWidget#visitViews QSpinBox { border-color: transparent;
      background: transparent; padding: 2px 4px; min-height: 18px; }
    QTableWidget#visitViews QComboBox:focus, QTableWidget#visitViews QSpinBox:focus { border-color: %info; }
    QTableWidget#visitViews QComboBox::drop-down { width: 16px; }
    QTableWidget#visitViews QToolButton { padding: 2px; min-height: 0; }
    QTableWidget#visitViews QHeaderView::section { padding: 2px 2px; }
    QTableWidget#visitViews::item { padding: 0 4px; }
    QTableWidget#visitViews { background: %panel; border: 1px solid %line; border-radius: 5px; }
    QCheckBox:disabled, QRadioButton:disabled, QMenu::item:disabled { color: %faint; }
    QFrame#leftColumn { background: %ground; border-right: 1px solid %line; }
    QListWidget#views, QListWidget#allViewsList { background: transparent; border: none; padding: 0; }
    QListWidget#views::item, QListWidget#allViewsList::item { padding: 0; }
    QFrame#welcome { background: %surround; }
    QFileDialog QToolButton { padding: 2px; min-height: 0; min-width: 0; }
    QTabWidget::pane { border: 1px solid %line; border-radius: 5px; top: -1px; }
    QTabBar::tab { padding: 7px 16px; color: %quiet; border-bottom: 2px solid transparent; }
    QTabBar::tab:selected { color: %text; border-bottom: 2px solid %info; }
    QListWidget { background: %panel; border: 1px solid %line; border-radius: 5px; padding: 4px; outline: none; }
    QListWidget::item { padding: 4px 6px; border-radius: 4px; } QListWidget::item:selected { background: %line;
      color: %text; }
    QToolButton::menu-indicator { image: none; }
    QComboBox, QLineEdit { background: %raised; border: 1px solid %line; border-radius: 5px; padding: 5px 9px;
      min-height: 20px; }
    QComboBox::drop-down { border: none; width: 26px; }
    QComboBox::down-arrow { image: url(:/arrow-%name.svg); width: 10px; height: 6px; }
    QComboBox QAbstractItemView, QMenu { background: %raised; border: 1px solid %line; padding: 4px; outline: none; }
    QComboBox QAbstractItemView::item { min-height: 24px; padding: 2px 6px; }
    QMenu::item { padding: 6px 28px 6px 12px; border-radius: 4px; }
    QMenu::item:selected { background: %line; }
    QMenu::separator { height: 1px; background: %line; margin: 4px 8px; }
    QCheckBox { spacing: 8px; min-height: 24px; }
    QCheckBox::indicator, QTableWidget::indicator { width: 16px; height: 16px; border: 1px solid %quiet;
      border-radius: 4px; background: %raised; }
    QCheckBox::indicator:checked, QTableWidget::indicator:checked { background: %info; border-color: %info;
      image: url(:/tick-%name.svg); }
    QCheckBox:focus::indicator { border-color: %accent; }
    QSlider::groove:horizontal { height: 3px; background: %line; border-radius: 1px; }
    QSlider::sub-page:horizontal { background: %quiet; border-radius: 1px; }
    QSlider::handle:horizontal { width: 15px; height: 15px; margin: -7px 0; border-radius: 8px; background: %text;
      border: 2px solid %panel; }
    QSlider::handle:horizontal:focus { background: %info; }
    QProgressBar { background: %line; border: none; border-radius: 2px; max-height: 4px; min-height: 4px; }
    QProgressBar::chunk { background: %info; border-radius: 2px; }
    QTableWidget { background: transparent; border: none; gridline-color: %line; outline: none; }
    QTableWidget::item { padding: 2px 8px; }
    QTableWidget#comparison::item, QTableWidget#settings::item { padding: 0 3px; }
    QTableWidget#comparison { background: transparent; }
      QTableWidget#comparison QHeaderView::section { padding: 1px 3px; }
    QToolButton[role="tight"] { padding: 6px 5px; }
    QTableWidget::item:selected { background: %line; color: %text; }
    QHeaderView::section { background: transparent; color: %quiet; border: none; padding: 2px 8px; }
    QScrollBar:vertical { width: 8px; background: transparent; } QScrollBar::handle:vertical { background: %line;
      border-radius: 4px; min-height: 24px; }
    QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
    QScrollBar:horizontal { height: 8px; background: transparent; }
      QScrollBar::handle:horizontal { background: %line; border-radius: 4px; }
  )")
      .replace("%name", name)
      .replace("%text", text.name())
      .replace("%quiet", quiet.name())
      .replace("%faint", faint.name())
      .replace("%ground", ground.name())
      .replace("%panel", panel.name())
      .replace("%surround", surround.name())
      .replace("%raised", raised.name())
      .replace("%line", line.name())
      .replace("%onAccent", onAccent.name())
      .replace("%accent", accent.name())
      .replace("%info", info.name());
}

namespace {

double& sizeOfText() {
  static double size = 1;
  return size;
}

} // namespace

void installFonts() {
  loadResources();
  QFontDatabase::addApplicationFont(":/fonts/NotoSans-Regular.ttf");
  QFontDatabase::addApplicationFont(":/fonts/NotoSans-Bold.ttf");
}

void setTextSize(double size) {
  sizeOfText() = std::clamp(size, 1.0, 1.5);
}

double textSize() {
  return sizeOfText();
}

int grown(int pixels, double share) {
  return int(std::lround(pixels * (1 + share * (sizeOfText() - 1))));
}

QWidget* withinReach(QWidget* content) {
  if (sizeOfText() <= 1) return content;
  auto* area = new QScrollArea;
  area->setFrameShape(QFrame::NoFrame);
  area->setWidgetResizable(true);
  area->setStyleSheet("QScrollArea { background: transparent; }");
  area->viewport()->setAutoFillBackground(false);
  content->setAutoFillBackground(false);
  area->setWidget(content);
  return area;
}

QFont uiFont(double points, bool bold) {
  constexpr double kLargeEnough = 11; // larger letters grow by no more than these
  return paperFont(points + (sizeOfText() - 1) * std::min(points, kLargeEnough), bold);
}

QFont paperFont(double points, bool bold) {
  QFont font("Noto Sans");
  font.setPointSizeF(points);
  font.setBold(bold);
  return font;
}

} // namespace ml
