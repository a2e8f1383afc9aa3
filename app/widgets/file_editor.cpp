#include "widgets/file_editor.h"

#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QMimeData>
#include <QStyle>
#include <QToolButton>
#include <QUrl>

#include "edit/clips.h"
#include "model/media_watch.h"
#include "store/media_kind.h"
#include "store/media_store.h"
#include "widgets/file_chooser.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr QSize kSmall(56, 42);

}  // namespace

QString pictureFilter() {
  return FileEditor::tr(
      "Pictures, drawings and clips (*.png *.apng *.jpg *.jpeg *.webp *.gif *.tif *.tiff *.avif *.bmp *.exr *.jxl *.svg *.mp4 *.m4v *.mov "
      "*.webm *.mkv);;All files (*)");
}

QString draggedPicture(const QMimeData& data) {
  const auto urls = data.urls();
  if (urls.size() != 1 || !urls.front().isLocalFile()) return {};
  const QString path = urls.front().toLocalFile();
  return showsPicture(path) ? path : QString();
}

bool showsPicture(const QString& path) {
  const auto found = classOfFile(path.toStdString());
  return found && *found != MediaClass::Sound;
}

FileEditor::FileEditor(Document& document, ParamAddress at, QWidget* parent) : QWidget(parent), document_(document), at_(at) {
  setAcceptDrops(true);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(8);
  picture_ = new QLabel(this);
  picture_->setFixedSize(kSmall);
  picture_->setAlignment(Qt::AlignCenter);
  picture_->setObjectName(QStringLiteral("filePicture"));
  row->addWidget(picture_);
  auto* words = new QVBoxLayout;
  words->setSpacing(0);
  name_ = new QLabel(this);
  name_->setObjectName(QStringLiteral("fileName"));
  name_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  state_ = new QLabel(this);
  state_->setObjectName(QStringLiteral("muted"));
  state_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  state_->setWordWrap(true);
  words->addStretch(1);
  words->addWidget(name_);
  words->addWidget(state_);
  words->addStretch(1);
  row->addLayout(words, 1);
  accept_ = new QToolButton(this);
  accept_->setText(tr("Use it"));
  accept_->setObjectName(QStringLiteral("fileAccept"));
  accept_->setToolTip(tr("Take the file as it is now"));
  accept_->hide();
  row->addWidget(accept_);
  choose_ = new QToolButton(this);
  choose_->setObjectName(QStringLiteral("fileChoose"));
  row->addWidget(choose_);
  remove_ = new QToolButton(this);
  remove_->setObjectName(QStringLiteral("fileRemove"));
  remove_->setIcon(icon(QStringLiteral("trash-2"), Theme::now().muted));
  remove_->setIconSize(QSize(14, 14));
  remove_->setToolTip(tr("Show it no more"));
  remove_->setAccessibleName(remove_->toolTip());
  remove_->hide();
  row->addWidget(remove_);
  connect(remove_, &QToolButton::clicked, this, [this] { document_.setBase(at_, MediaRef(), false); });
  connect(choose_, &QToolButton::clicked, this, &FileEditor::choose);
  connect(accept_, &QToolButton::clicked, this, [this] { pointTo(text(ref_.path)); });
  connect(&document_.media(), &MediaWatch::problemsChanged, this, [this] { setFile(ref_); });
  showState();
}

void FileEditor::setFile(const MediaRef& ref) {
  ref_ = ref;
  showState();
  picture_->setVisible(!optional() || !ref_.empty());
  if (picture_->isHidden()) return;
  smallPictureOf(ref, kSmall * devicePixelRatioF(), this, [this, ref](const QImage& image) {
    if (!(ref == ref_)) return;
    QPixmap pixmap = QPixmap::fromImage(image);
    pixmap.setDevicePixelRatio(devicePixelRatioF());
    picture_->setPixmap(pixmap);
  });
}

// Of several files of a step the first is what it shows; the others may be missing.
bool FileEditor::optional() const {
  const ParamSpec& own = document_.spec(at_);
  const RecipeStep* step = document_.step(at_.layer, at_.step);
  if (!step || at_.item != 0) return false;
  for (const ParamSpec& spec : step->spec->params)
    if (spec.type == ParamType::File) return spec.id != own.id;
  return false;
}

void FileEditor::showState() {
  const MediaProblem* const problem = document_.media().problemOf(ref_);
  const QString name = text(mediaName(ref_));
  missing_ = problem && !problem->changed;
  remove_->setVisible(optional() && !ref_.empty());
  if (ref_.empty())
    optional() ? say(tr("None"), {}) : say(tr("A sample"), tr("Choose a picture, or drop one here"));
  else if (!problem)
    say(name, facts());
  else
    say(name, missing_ ? text(problem->sentence).mid(name.size() + 1) : tr("Changed since it was taken in"));
  state_->setProperty("problem", problem != nullptr);
  state_->style()->unpolish(state_);
  state_->style()->polish(state_);
  accept_->setVisible(problem && problem->changed);
  choose_->setText(missing_ ? tr("Find…") : tr("Choose…"));
  choose_->setToolTip(missing_ ? tr("Say where it is now; others that are missing are looked for beside it")
                               : tr("Another picture, drawing or clip"));
  choose_->setAccessibleName(choose_->toolTip());
  setToolTip(ref_.empty() ? QString() : ref_.data ? tr("%1, kept in the scene").arg(text(mediaName(ref_))) : text(ref_.path));
}

QString FileEditor::facts() const {
  if (ref_.width <= 0) return {};
  const QString size = tr("%1 × %2").arg(ref_.width).arg(ref_.height);
  if (!ref_.moving()) return size;
  const auto* step = document_.valid(at_) ? document_.step(at_.layer, at_.step) : nullptr;
  const double speed = step ? edit::clipSpeed(*step, document_.scene()) : 0;
  const QString length = tr("%1 s").arg(QLocale::c().toString(ref_.seconds, 'f', 2));
  if (speed <= 0) return tr("%1 · %2, stands").arg(size, length);
  return tr("%1 · %2, at %3 % of its speed").arg(size, length).arg(std::lround(speed * 100));
}

void FileEditor::say(const QString& what, const QString& how) {
  name_->setText(name_->fontMetrics().elidedText(what, Qt::ElideMiddle, std::max(90, name_->width())));
  name_->setProperty("whole", what);
  state_->setText(how);
  state_->setVisible(!how.isEmpty());
}

void FileEditor::choose() {
  const QString from = ref_.empty() || ref_.data ? QFileInfo(document_.path()).path() : text(ref_.path);
  const QString path =
      chooseFile(window(), missing_ ? tr("Where is %1 now?").arg(text(mediaName(ref_))) : tr("Choose a picture"), from, pictureFilter());
  if (path.isEmpty()) return;
  missing_ ? pointTo(path) : take(path);
}

void FileEditor::take(const QString& path) {
  takeInFiles({path}, this, [this](const std::vector<MediaRef>& taken, const QStringList& sentences) {
    if (!sentences.isEmpty()) Q_EMIT document_.refused(sentences.front());
    if (!taken.empty()) document_.setBase(at_, taken.front(), false);
  });
}

void FileEditor::pointTo(const QString& path) {
  takeInFiles({path}, this, [this](const std::vector<MediaRef>& taken, const QStringList& sentences) {
    if (!sentences.isEmpty()) Q_EMIT document_.refused(sentences.front());
    if (taken.empty()) return;
    const MediaRef from = ref_;
    document_.edit(tr("find %1").arg(text(mediaName(from))), {}, [&](Scene& scene) { pointElsewhere(scene, from, taken.front()); });
  });
}

void FileEditor::dragEnterEvent(QDragEnterEvent* event) {
  // Anything else is for the window to judge.
  if (draggedPicture(*event->mimeData()).isEmpty()) return event->ignore();
  event->acceptProposedAction();
  say(tr("Show this one"), QString());
}

void FileEditor::dragLeaveEvent(QDragLeaveEvent*) { showState(); }

void FileEditor::dropEvent(QDropEvent* event) {
  const QString path = draggedPicture(*event->mimeData());
  if (path.isEmpty()) return event->ignore();
  event->acceptProposedAction();
  showState();
  take(path);
}

}  // namespace oa::app
