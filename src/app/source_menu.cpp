// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/source_menu.h"

#include "app/theme.h"

#include <QAction>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

namespace ml {
namespace {

constexpr const char* kLastAddress = "cameraAddress";
constexpr int kDialogWidth = 420;

CameraSession& camera(ShootModel& shoot) {
  return shoot.desk().camera;
}

} // namespace

SourceMenu::SourceMenu(ShootModel& shoot) : shoot_(shoot), menu_(new QMenu(this)) {
  setObjectName("source");
  setPopupMode(QToolButton::InstantPopup);
  setToolButtonStyle(Qt::ToolButtonTextOnly);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  setToolTip(tr("Where frames come from"));
  setAccessibleName(tr("Where frames come from"));
  setMenu(menu_);
  camera(shoot_).setLastAddress(QSettings().value(kLastAddress).toString());
  fill();
  connect(menu_, &QMenu::aboutToShow, this, &SourceMenu::fill);
  connect(&camera(shoot_), &CameraSession::foundChanged, this, [this] {
    if (menu_->isVisible()) fill();
  });
  connect(&camera(shoot_), &CameraSession::changed, this, [this] {
    if (!camera(shoot_).wired()) return;
    QSettings().setValue(kLastAddress, camera(shoot_).lastAddress());
  });
}

void SourceMenu::refresh() {
  const CameraSession& c = camera(shoot_);
  setText(!shoot_.watched().isEmpty() ? tr("Watched folder")
          : c.wired()                 ? fontMetrics().elidedText(c.wiredName(), Qt::ElideRight, width() - 24)
          : c.hasSimulated()          ? tr("Simulated camera")
                                      : tr("Choose a camera"));
  setEnabled(!shoot_.desk().busy());
}

/// Filled anew each time it opens: what is connected changes.
void SourceMenu::fill() {
  menu_->clear();
  CameraSession& c = camera(shoot_);
  const auto add = [&](const QString& text, const QString& name, bool checked, auto work) {
    QAction* action = menu_->addAction(text, this, work);
    action->setObjectName(name);
    action->setCheckable(true);
    action->setChecked(checked);
    return action;
  };
  const QString address = c.wired() ? QString::fromStdString(c.wired()->address()) : QString();
  const bool watching = !shoot_.watched().isEmpty();
  add(tr("Simulated camera"), "useSimulated", !c.wired() && !watching, [this] {
    shoot_.stopWatching();
    camera(shoot_).useSimulated();
  })->setEnabled(c.hasSimulated());
  add(tr("Watched folder..."), "useFolder", watching, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("The folder your camera's program writes to"));
    if (!folder.isEmpty()) shoot_.watch(folder);
  });
  menu_->addSeparator();
  const auto addCamera = [&](const QString& text, const QString& at) {
    add(text, "useCamera", at == address, [this, at] {
      shoot_.stopWatching();
      camera(shoot_).useWired(at, shoot_.desk().view());
    });
  };
  for (const auto& found : c.found())
    addCamera(tr("%1, by USB").arg(QString::fromStdString(found.model)), QString::fromStdString(found.port));
  const QString last = c.lastAddress();
  if (!last.isEmpty() && !last.startsWith("usb:")) addCamera(tr("Camera at %1").arg(last), last);
  menu_->addAction(tr("Camera at an address..."), this, &SourceMenu::askAddress)->setObjectName("askAddress");
  menu_->addAction(tr("Look for cameras by USB"), this, [this] { camera(shoot_).look(); })
      ->setObjectName("lookForCameras");
}

void SourceMenu::askAddress() {
  auto* dialog = new QDialog(window());
  dialog->setObjectName("addressDialog");
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->setWindowTitle(tr("A camera in the network"));
  auto* column = new QVBoxLayout(dialog);
  column->setContentsMargins(20, 18, 20, 16);
  column->setSpacing(10);
  auto* words =
      new QLabel(tr("Switch on the camera's network connection for remote control and type the address that its "
                    "screen shows, for instance 192.168.1.20, with :15740 behind it when it names a port."));
  words->setWordWrap(true);
  auto* line = new QLineEdit(camera(shoot_).lastAddress());
  line->setObjectName("address");
  line->setAccessibleName(tr("Address of the camera"));
  auto* caution =
      new QLabel(tr("Who stands near a flash or a moving slider cannot see that it is about to go: warn them. A "
                    "sensor grows hot when the finder runs for long. Keep the sun out of the picture."));
  caution->setProperty("role", "quiet");
  caution->setWordWrap(true);
  auto* buttons = new QDialogButtonBox;
  auto* go = buttons->addButton(tr("Connect"), QDialogButtonBox::AcceptRole);
  go->setObjectName("connectAddress");
  buttons->addButton(QDialogButtonBox::Cancel);
  for (QWidget* w : std::initializer_list<QWidget*>{words, line, caution, buttons}) column->addWidget(w);
  dialog->setMinimumWidth(grown(kDialogWidth));
  connect(buttons, &QDialogButtonBox::accepted, dialog, [this, dialog, line] {
    shoot_.stopWatching();
    camera(shoot_).useWired(line->text(), shoot_.desk().view());
    dialog->accept();
  });
  connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
  dialog->open();
  line->selectAll();
  line->setFocus();
}

} // namespace ml
