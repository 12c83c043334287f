#include "parcels/parcel_keeper.h"

#include <QFileInfo>
#include <QSettings>

namespace rubble::app {

namespace {

/// By what a file is known in the settings, where a slash would begin a group.
QString setting_of(const QString& file) {
    return QStringLiteral("parcel_on_save/") +
           QString::fromLatin1(
               QFileInfo(file).absoluteFilePath().toUtf8().toBase64(QByteArray::Base64UrlEncoding));
}

} // namespace

ParcelKeeper::ParcelKeeper(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t, const Cancel& cancel) {
          const auto kind = parcel::parcel_kind(job.project, job.kept.kind.toStdString());
          if (!kind) return;
          if (job.kept.must_hold && !parcel::open_in(job.level, *job.result).empty()) {
              emit made(tr("No parcel was made: something is open"));
              return;
          }
          const auto files = parcel::parcel_of(job.project, job.level, *job.result, *kind, cancel);
          if (cancel.requested()) return;
          const auto written = files ? parcel::write_parcel(*files, job.kept.target.toStdString())
                                     : Result<void>(tl::unexpected(files.error()));
          emit made(written ? tr("The parcel in %1 was made again").arg(job.kept.target)
                            : QString::fromStdString(written.error().text()));
      }) {
    connect(&session_, &Session::savedChanged, this, [this] {
        if (session_.documents().saved() && keeps(session_.files().file())) wanted_ = true, make();
    });
    connect(&session_, &Session::builtChanged, this, &ParcelKeeper::make);
}

ParcelKeeper::~ParcelKeeper() { jobs_.drop(); }

std::optional<ParcelKeeper::Kept> ParcelKeeper::kept(const QString& file) {
    if (file.isEmpty()) return {};
    const QStringList parts = QSettings().value(setting_of(file)).toStringList();
    if (parts.size() != 3) return {};
    return Kept{parts[0], parts[1], parts[2] == QStringLiteral("must_hold")};
}

void ParcelKeeper::keep(const QString& file, const std::optional<Kept>& what) {
    if (file.isEmpty()) return;
    QSettings settings;
    if (what)
        settings.setValue(
            setting_of(file),
            QStringList{what->kind, what->target, what->must_hold ? QStringLiteral("must_hold") : QString()});
    else
        settings.remove(setting_of(file));
}

void ParcelKeeper::make() {
    const auto& result = session_.built().check;
    if (!wanted_ || !session_.up_to_date() || !result || !result->complete) return;
    wanted_ = false;
    if (const auto what = kept(session_.files().file()))
        jobs_.ask({session_.project(), session_.stored_level(), result, *what});
}

} // namespace rubble::app
