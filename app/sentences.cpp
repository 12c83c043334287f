#include "sentences.h"

#include "base/overloaded.h"
#include "numbers.h"
#include "text.h"

namespace rubble::app {

namespace {

/// Findings are about centimetres: their lengths have two digits, as in reports.
QString digits(double value, int count) { return QLocale().toString(value, 'f', count); }

QString word_text(const check::Word& word, const Level& level) {
    return std::visit(
        overloaded{
            [](const check::Metres& length) { return tr("%1 m").arg(digits(length.value, 2)); },
            [](const check::Millimetres& length) { return tr("%1 mm").arg(digits(length.value, 1)); },
            [](const check::Degrees& angle) { return tr("%1°").arg(digits(angle.value, 1)); },
            [](const check::Term& term) { return tr(term.text); },
            [&](const auto& name) { return QString::fromStdString(check::in_english(name, level)); },
        },
        word);
}

QString in_words(const check::Sentence& sentence, const Level& level) {
    std::vector<std::string> words;
    for (const check::Word& word : sentence.words) words.push_back(word_text(word, level).toStdString());
    return QString::fromStdString(check::with_words(tr(sentence.text).toStdString(), words));
}

} // namespace

QString in_words(const check::Sentences& sentences, const Level& level) {
    QStringList all;
    for (const check::Sentence& sentence : sentences) all << in_words(sentence, level);
    return all.join(QStringLiteral(" "));
}

QString first_in_words(const check::Sentences& sentences, const Level& level) {
    return sentences.empty() ? QString() : in_words(sentences.front(), level);
}

} // namespace rubble::app
