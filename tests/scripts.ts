/**
 * A name in each of many scripts, and how people type it who look for it: as it stands, in another case, without its
 * accents or points, composed or not, wide or narrow, and for scripts without spaces a word from within.
 */
export const NAMES: [script: string, name: string, ...asked: string[]][] = [
  ["Latin", "Garçon à l'Œuvre Straße", "garcon", "GARÇON", "strasse", "STRASSE", "garçon"],
  ["Vietnamese", "Hợp đồng tài trợ", "hop", "HỢP", "tai tro", "trợ"],
  ["Turkish", "İstanbul IŞIK ılık", "istanbul", "isik", "ILIK", "ışık"],
  ["Greek", "Λίστα Αποστολής", "λίστα", "λιστα", "ΛΙΣΤΑ", "αποστολησ", "ΑΠΟΣΤΟΛΗΣ"],
  ["Cyrillic", "Отчёт Андрей", "отчет", "ОТЧЁТ", "андрей", "Андрей"],
  ["Armenian", "Հաշվետվություն", "հաշվետ", "ՀԱՇՎԵՏՎ"],
  ["Georgian", "ანგარიში", "ანგარ", "ᲐᲜᲒᲐᲠᲘᲨᲘ"],
  ["Hebrew", "שָׁלוֹם תקציב", "שלום", "תקציב", "שָׁלוֹם"],
  ["Arabic", "مُحَمَّد تقرير", "محمد", "تقرير", "مُحَمَّد"],
  ["Devanagari", "हिन्दी रिपोर्ट", "हिन्दी", "हि", "रिपोर्ट"],
  ["Tamil", "அறிக்கை தமிழ்", "அறிக்கை", "தமிழ்"],
  ["Thai", "รายงานประจำปี", "รายงาน", "ประจำ", "ปี"],
  ["Khmer", "របាយការណ៍ប្រចាំឆ្នាំ", "របាយ", "ប្រចាំ"],
  ["Han", "年度预算计划", "年度", "预算", "计划"],
  ["Kana", "ツアーガイド資料", "ガイド", "ｶﾞｲﾄﾞ", "資料", "ツアー"],
  ["Hangul", "한국 공연 계획", "한국", "한국".normalize("NFD"), "공연 계"],
  ["Mathematical", "𝐁𝐮𝐝𝐠𝐞𝐭 ﬁnal Ⅳ", "budget", "final", "iv"],
];

/** What is another word, however much alike it looks: none of it finds the name beside it. */
export const OTHERS: [script: string, name: string, asked: string][] = [
  ["Kana", "カード", "ガード"],
  ["Devanagari", "किला", "कला"],
  ["Thai", "ปี", "ปา"],
  ["Latin", "Itinerary", "tinerary"],
];
