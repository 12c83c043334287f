#include "numbers.h"

#include <algorithm>
#include <cmath>

#include <QCoreApplication>

namespace rubble::app {

namespace {

/// Of the whole program.
struct Lengths {
    LengthUnit unit = LengthUnit::metres;
    double metres = 1; ///< of one of them
};
Lengths& lengths() {
    static Lengths in_use;
    return in_use;
}

/// A reader of sums by recursive descent.
class Sum {
public:
    Sum(const QString& text, double unit) : text_(text), unit_(unit) {}

    std::optional<double> value() {
        const double result = terms();
        skip();
        if (failed_ || at_ != text_.size() || !std::isfinite(result)) return {};
        return result;
    }

private:
    void skip() {
        while (at_ < text_.size() && text_[at_].isSpace()) ++at_;
    }
    bool take(QChar c) {
        skip();
        if (at_ >= text_.size() || text_[at_] != c) return false;
        ++at_;
        return true;
    }
    bool take(const QString& word) {
        skip();
        if (text_.mid(at_, word.size()) != word) return false;
        at_ += word.size();
        return true;
    }
    double terms() {
        double sum = factors();
        for (;;) {
            if (take('+'))
                sum += factors();
            else if (take('-') || take(QChar(0x2212)))
                sum -= factors();
            else
                return sum;
        }
    }
    /// Of a product that no factor gives a unit, all of it is in the usual one.
    double factors() {
        bool has_unit = false;
        double product = number(has_unit);
        for (;;) {
            if (take('*'))
                product *= number(has_unit);
            else if (take('/'))
                product /= number(has_unit);
            else
                return has_unit ? product : product * unit_;
        }
    }
    double number(bool& has_unit) {
        if (++depth_ > 50) failed_ = true;
        if (failed_) return 0;
        if (take('-') || take(QChar(0x2212))) return -number(has_unit);
        if (take('(')) {
            const double inner = terms();
            has_unit = true;
            if (!take(')')) failed_ = true;
            --depth_;
            return inner;
        }
        skip();
        const qsizetype begin = at_;
        while (at_ < text_.size() && (text_[at_].isDigit() || text_[at_] == '.' || text_[at_] == ',')) ++at_;
        bool ok = false;
        const double plain = text_.mid(begin, at_ - begin).replace(',', '.').toDouble(&ok);
        if (!ok) failed_ = true;
        --depth_;
        for (const auto& [word, metres] : {std::pair("cm", 0.01), {"mm", 0.001}, {"m", 1.0}})
            if (take(QString::fromLatin1(word))) {
                has_unit = true;
                return plain * metres;
            }
        return plain;
    }

    QString text_;
    double unit_; ///< of what is typed without one
    qsizetype at_ = 0;
    int depth_ = 0;
    bool failed_ = false;
};

} // namespace

void tell_lengths_in(LengthUnit unit, double step_m) {
    lengths() = {unit, unit == LengthUnit::metres        ? 1
                       : unit == LengthUnit::centimetres ? 0.01
                                                         : std::max(step_m, 1e-3)};
}
LengthUnit unit_of_lengths() { return lengths().unit; }
double metres_of_unit() { return lengths().metres; }
QString name_of_lengths() {
    switch (lengths().unit) {
    case LengthUnit::centimetres:
        return QStringLiteral("cm");
    case LengthUnit::grid_steps:
        return QCoreApplication::translate("Numbers", "steps");
    case LengthUnit::metres:
        break;
    }
    return QStringLiteral("m");
}

std::optional<double> parse_number(const QString& text) { return Sum(text.trimmed(), 1).value(); }
std::optional<double> parse_metres(const QString& text) {
    return Sum(text.trimmed(), lengths().metres).value();
}

QString metres_text(double metres) {
    const double value = metres / lengths().metres;
    const QString number = lengths().unit == LengthUnit::metres ? QString::number(value, 'f', 2)
                           : lengths().unit == LengthUnit::centimetres
                               ? QString::number(value, 'f', 0)
                               : plain_number(std::round(value * 100) / 100);
    return number + QLatin1Char(' ') + name_of_lengths();
}

QString plain_number(double value) {
    QString text = QString::number(std::abs(value) < 5e-5 ? 0.0 : value, 'f', 4);
    while (text.endsWith('0')) text.chop(1);
    if (text.endsWith('.')) text.chop(1);
    return text;
}

QString counted(int count, const QString& one, const QString& many) {
    return QStringLiteral("%1 %2").arg(count).arg(count == 1 ? one : many);
}

QString signed_text(double value, int digits, const QString& unit) {
    return (value > 0 ? QStringLiteral("+") : QString()) + QString::number(value, 'f', digits) + unit;
}

} // namespace rubble::app
