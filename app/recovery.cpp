#include "recovery.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSaveFile>
#include <QStandardPaths>

#include "io/level_file.h"

namespace rubble::app {

namespace {

/// As much work as a crash may cost.
constexpr int k_delay_ms = 3000;
const QString k_level_end = QStringLiteral(".level.json"), k_about_end = QStringLiteral(".about.json");

QString about_path(const QString& level_path) { return level_path.chopped(k_level_end.size()) + k_about_end; }

/// Copies are named by the process that writes them.
bool still_runs(const QString& level_path) {
    return QFileInfo::exists(QStringLiteral("/proc/") + QFileInfo(level_path).baseName());
}

void write_about(const QString& path, const QString& file) {
    QSaveFile out(path);
    if (!out.open(QIODevice::WriteOnly)) return;
    out.write(QJsonDocument(QJsonObject{{QStringLiteral("file"), file}}).toJson());
    out.commit();
}

} // namespace

Recovery::Recovery(Session& session, QString folder, QObject* parent)
    : QObject(parent),
      session_(session),
      folder_(std::move(folder)) {
    writer_.setMaxThreadCount(1); // an older copy must not overtake a newer one
    soon_.setSingleShot(true);
    soon_.setInterval(k_delay_ms);
    connect(&soon_, &QTimer::timeout, this, &Recovery::write);
    connect(&session_, &Session::levelChanged, this, [this] {
        // Not put off by every further change: someone who never pauses is covered too.
        if (!soon_.isActive()) soon_.start();
    });
    connect(&session_, &Session::savedChanged, this, &Recovery::take_away);
    connect(&session_, &Session::documentOpened, this, &Recovery::take_away);
}

Recovery::~Recovery() { take_away(); }

QString Recovery::usual_folder() {
    return QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
           QStringLiteral("/recovery");
}

QString Recovery::own_path() const {
    return folder_ + QStringLiteral("/%1").arg(QCoreApplication::applicationPid()) + k_level_end;
}

void Recovery::write() {
    if (session_.saved()) return take_away();
    writer_.start([this, level = session_.stored_level(), path = own_path(), file = session_.file()] {
        QDir().mkpath(QFileInfo(path).path());
        write_about(about_path(path), file);
        const auto saved = io::save_level(level, path.toStdString());
        QMetaObject::invokeMethod(this, [this, saved] {
            if (saved)
                emit written();
            else
                emit session_.message(tr("No recovery copy could be kept: %1")
                                          .arg(QString::fromStdString(saved.error().text())));
        });
    });
}

void Recovery::take_away() {
    soon_.stop();
    writer_.waitForDone(); // a copy being written would come after
    discard({own_path(), {}, {}, {}});
}

std::vector<Recovery::Copy> Recovery::left_behind() const {
    std::vector<Copy> out;
    const auto files =
        QDir(folder_).entryInfoList({QStringLiteral("*") + k_level_end}, QDir::Files, QDir::Time);
    for (const QFileInfo& info : files) {
        const QString path = info.filePath();
        if (still_runs(path)) continue;
        const auto level = io::load_level(path.toStdString());
        if (!level) continue;
        QFile about(about_path(path));
        const QByteArray text = about.open(QIODevice::ReadOnly) ? about.readAll() : QByteArray();
        const QString file = QJsonDocument::fromJson(text).object().value(QStringLiteral("file")).toString();
        out.push_back({path, file, QString::fromStdString(level->name), info.lastModified()});
    }
    return out;
}

Result<void> Recovery::restore(const Copy& copy) {
    auto level = io::load_level(copy.path.toStdString());
    if (!level) return tl::unexpected(level.error());
    if (copy.file.isEmpty())
        session_.start_new();
    else if (auto opened = session_.open(copy.file); !opened)
        return opened;
    session_.apply(std::move(*level), tr("Recovered work"));
    discard(copy);
    return {};
}

void Recovery::discard(const Copy& copy) {
    QFile::remove(copy.path);
    QFile::remove(about_path(copy.path));
}

} // namespace rubble::app
