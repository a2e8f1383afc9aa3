#include "sheets/look_gallery.h"

#include <QAbstractButton>
#include <QApplication>
#include <QBuffer>
#include <QCheckBox>
#include <QContextMenuEvent>
#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <algorithm>

#include "edit/layers.h"
#include "render/frames.h"
#include "sheets/shown_alone.h"
#include "widgets/file_chooser.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr int kFrames = 120;
constexpr QSize kPicture(240, 135);

QImage pictureOf(const std::string& png) { return QImage::fromData(QByteArray::fromStdString(png), "PNG"); }

}  // namespace

LookGallery::LookGallery(Document& document, LookShelf& shelf, QWidget* parent)
    : LiveGallery(tr("Looks"), QString(), 8, kPicture, parent), document_(document), shelf_(shelf) {
  setObjectName(QStringLiteral("lookGallery"));
  setSectionsBeside(true);
  instead_ = new QCheckBox(tr("In place of its steps"), this);
  instead_->setObjectName(QStringLiteral("lookInstead"));
  instead_->setToolTip(tr("The look takes the place of the steps that the layer has; else it comes behind them"));
  addTool(instead_);
  keep_ = new QPushButton(tr("Keep its look…"), this);
  keep_->setObjectName(QStringLiteral("keepLook"));
  keep_->setToolTip(tr("Keep what this layer's steps do, and how it moves, to give it to others"));
  addTool(keep_);
  auto* open = new QPushButton(tr("Open…"), this);
  open->setObjectName(QStringLiteral("openLook"));
  open->setToolTip(tr("Take in a look from a file"));
  addTool(open);
  connect(open, &QPushButton::clicked, this, &LookGallery::takeIn);
  connect(keep_, &QPushButton::clicked, this, &LookGallery::keepWanted);
  connect(instead_, &QCheckBox::toggled, this, &LookGallery::refresh);
  connect(&shelf, &LookShelf::changed, this, [this] {
    if (isVisible()) refresh();
  });
  connect(this, &LiveGallery::picked, this, [this](int card) {
    const edit::Look& look = shelf_.looks()[static_cast<std::size_t>(card)].look;
    const Id layer = document_.currentLayer();
    const bool instead = instead_->isChecked();
    document_.perform(tr("look %1").arg(text(look.name)), [&](Scene& scene) { return edit::applyLook(scene, layer, look, instead); });
    Q_EMIT closed();
  });
}

void LookGallery::prepare() {
  const Layer* layer = document_.layer();
  setWords(tr("Looks"), layer ? tr("Each at work on %1.").arg(text(layer->name)) : QString());
  instead_->setChecked(false);
  refresh();
  if (count() > 0) card(0)->setFocus();
}

void LookGallery::refresh() {
  const Layer* layer = document_.layer();
  if (!layer) return;
  keep_->setEnabled(edit::lookOf(document_.scene(), layer->id, "look").has_value());
  const Scene alone = shownAlone(document_.scene(), layer->id);
  std::vector<GalleryItem> list;
  for (const LookShelf::Kept& kept : shelf_.looks()) {
    GalleryItem item;
    item.name = text(kept.look.name);
    item.section = kept.file.isEmpty() ? text(kept.look.section) : tr("Your own");
    item.help = kept.look.help.empty() ? item.name : text(kept.look.help);
    item.scene = alone;
    (void)edit::applyLook(item.scene, layer->id, kept.look, instead_->isChecked());
    // Long loops are looked at in short.
    item.scene.frames = std::min(item.scene.frames, kFrames);
    item.first = pictureOf(kept.look.picture);
    list.push_back(std::move(item));
  }
  setItems(std::move(list));
}

int LookGallery::cardOf(const QString& name) const {
  const auto& looks = shelf_.looks();
  const auto found = std::find_if(looks.begin(), looks.end(), [&](const LookShelf::Kept& kept) { return text(kept.look.name) == name; });
  return found == looks.end() ? -1 : static_cast<int>(found - looks.begin());
}

int LookGallery::cardAt(const QWidget* widget) const {
  for (int i = 0; i < count(); ++i)
    if (card(i) == widget) return i;
  return -1;
}

void LookGallery::contextMenuEvent(QContextMenuEvent* event) {
  const int at =
      cardAt(event->reason() == QContextMenuEvent::Mouse ? QApplication::widgetAt(event->globalPos()) : QApplication::focusWidget());
  if (at < 0 || shelf_.looks()[static_cast<std::size_t>(at)].file.isEmpty()) return;
  QMenu menu(this);
  menu.addAction(tr("Delete this look…"), this, [this, at] { remove(at); });
  menu.exec(event->globalPos());
}

void LookGallery::keyPressEvent(QKeyEvent* event) {
  const int at = cardAt(QApplication::focusWidget());
  if (event->key() == Qt::Key_Delete && at >= 0) return remove(at);
  LiveGallery::keyPressEvent(event);
}

void LookGallery::remove(int at) {
  const LookShelf::Kept kept = shelf_.looks()[static_cast<std::size_t>(at)];
  if (kept.file.isEmpty()) return;
  const auto answer = QMessageBox::question(
      this, tr("Delete a look"),
      tr("Delete the look “%1”? Its file goes for good; layers that were given it keep their steps.").arg(text(kept.look.name)),
      QMessageBox::Yes | QMessageBox::Cancel, QMessageBox::Cancel);
  if (answer != QMessageBox::Yes) return;
  if (const auto gone = shelf_.remove(kept.file); !gone) Q_EMIT document_.refused(text(gone.error().sentence()));
}

void LookGallery::takeIn() {
  const QString path = chooseFile(this, tr("Open a look"), LookShelf::folder(), tr("Looks (*.look);;All files (*)"));
  if (path.isEmpty()) return;
  if (const auto taken = shelf_.takeIn(path); !taken) Q_EMIT document_.refused(text(taken.error().sentence()));
}

void keepLook(QWidget* parent, Document& document, LookShelf& shelf, int frame) {
  const Layer* layer = document.layer();
  if (!layer) return;
  if (const auto can = edit::lookOf(document.scene(), layer->id, "look"); !can)
    return Q_EMIT document.refused(text(can.error().sentence()));
  bool named = false;
  const QString name =
      QInputDialog::getText(parent, LookGallery::tr("Keep a look"),
                            LookGallery::tr("The steps behind the source and the motions of the place are kept under this name:"),
                            QLineEdit::Normal, text(layer->name), &named)
          .simplified()
          .left(80);
  if (!named || name.isEmpty()) return;
  auto look = edit::lookOf(document.scene(), layer->id, name.toStdString());
  if (!look) return Q_EMIT document.refused(text(look.error().sentence()));
  Renderer renderer(shownAlone(document.scene(), layer->id), kPicture.width(), kPicture.height());
  Frame8 small;
  renderInto(renderer, frame, Alpha::Straight, small);
  const QImage image(small.rgba.data(), small.width, small.height, small.width * 4, QImage::Format_RGBA8888);
  QByteArray png;
  QBuffer buffer(&png);
  if (buffer.open(QIODevice::WriteOnly) && image.save(&buffer, "PNG")) look->picture = png.toStdString();
  if (look->picture.size() > edit::kMostLookPicture) look->picture.clear();
  if (const auto kept = shelf.keep(*look); !kept) Q_EMIT document.refused(text(kept.error().sentence()));
}

}  // namespace oa::app
