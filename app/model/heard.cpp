#include "model/heard.h"

#include "model/background.h"
#include "model/document.h"
#include "scene/run.h"
#include "sound/levels.h"
#include "store/media_store.h"

namespace oa::app {

struct Heard::Made {
  std::vector<WavePart> wave;
  std::vector<WavePart> whole;
  std::shared_ptr<const SoundLevels> levels;
  std::shared_ptr<const Sound> file;
  SoundFunction sound;
  SoundFunction runSound;
  Tempo tempo;
  QString problem;
  bool fresh = false;  // the file is another one
};

Heard::Heard(Document& document) : QObject(&document), document_(document) {
  connect(&document, &Document::changed, this, &Heard::refresh);
  connect(&document, &Document::fileChanged, this, &Heard::refresh);
}

void Heard::refresh() {
  const Scene& scene = document_.scene();
  // Footage brings its own sound; its length says whether it is there.
  const RunLength run = runOf(scene);
  const std::vector<double> loop{
      static_cast<double>(scene.frames), scene.rate.value(), run.seconds, scene.run.keepsSound ? 1.0 : 0.0, static_cast<double>(run.arrive),
      static_cast<double>(run.frames())};
  if (scene.sound == seen_ && loop == seenLoop_) return;
  seen_ = scene.sound;
  seenLoop_ = loop;
  read();
}

void Heard::read() {
  again_ = reading_;
  if (reading_) return;
  reading_ = true;
  Scene scene = document_.scene();
  const std::string known = known_;
  inBackground(
      this,
      [scene = std::move(scene), known] {
        Made made;
        const SoundTrack& track = scene.sound;
        if (track.there()) {
          const auto sound = MediaStore::shared().sound(track.file());
          if (sound) {
            made.file = *sound;
            made.wave = waveOf(**sound, track.number(SoundParam::From), scene.seconds(), kParts);
            made.levels = levelsOf(scene);
            made.fresh = track.file().hash != known;
            if (made.fresh) {
              made.whole = waveOf(**sound, 0, (*sound)->seconds(), kParts);
              made.tempo = tempoOf(**sound);
            }
          } else {
            made.problem = QString::fromStdString(sound.error().sentence());
          }
        }
        const RunLength run = runOf(scene);
        made.sound = soundOf(scene, run.seconds > 0 ? run.frames() : scene.frames).sound;
        made.runSound = soundOf(scene, run.frames(), run.arrive).sound;
        return made;
      },
      [this](Made made) {
        reading_ = false;
        wave_ = std::move(made.wave);
        levels_ = std::move(made.levels);
        file_ = std::move(made.file);
        sound_ = std::move(made.sound);
        runSound_ = std::move(made.runSound);
        problem_ = made.problem;
        if (made.fresh) {
          known_ = seen_.file().hash;
          whole_ = std::move(made.whole);
          tempo_ = made.tempo;
        }
        if (!file_) {
          known_.clear();
          whole_.clear();
          tempo_ = {};
        }
        Q_EMIT changed();
        if (again_) read();
      });
}

}  // namespace oa::app
