/** What the copy of an answer says besides the answers. */
export interface CopyWords {
  readonly subject: (title: string) => string;
  readonly arrived: (school: string, when: string) => string;
  readonly yes: string;
  readonly signed: string;
  /** In the place of an address that somebody wrote: whoever answers may write any address into the form. */
  readonly link: string;
  readonly change: string;
  readonly paper: string;
  readonly why: (school: string) => string;
}

/** In the languages that families' pages are written in; English for all others. */
const WORDS: Readonly<Record<string, CopyWords>> = {
  en: {
    subject: (title) => `Your answers: ${title}`,
    arrived: (school, when) => `These answers reached ${school} on ${when}.`,
    yes: 'Yes',
    signed: 'Signed',
    link: '(a link, left out)',
    change: 'Change the answers',
    paper: 'Take your paper along',
    why: (school) =>
      `You get this because somebody wrote this address into a form of ${school}. If it was not you, there is nothing that you have to do.`,
  },
  de: {
    subject: (title) => `Ihre Antworten: ${title}`,
    arrived: (school, when) => `Diese Antworten sind am ${when} bei ${school} eingegangen.`,
    yes: 'Ja',
    signed: 'Unterschrieben',
    link: '(ein Link, weggelassen)',
    change: 'Antworten ändern',
    paper: 'Ihr Blatt mitnehmen',
    why: (school) =>
      `Sie bekommen dies, weil jemand diese Adresse in ein Formular von ${school} geschrieben hat. Waren das nicht Sie, brauchen Sie nichts zu tun.`,
  },
  fr: {
    subject: (title) => `Vos réponses : ${title}`,
    arrived: (school, when) => `Ces réponses sont parvenues à ${school} le ${when}.`,
    yes: 'Oui',
    signed: 'Signé',
    link: '(un lien, retiré)',
    change: 'Modifier les réponses',
    paper: 'Emporter votre document',
    why: (school) =>
      `Vous recevez ceci parce que quelqu’un a écrit cette adresse dans un formulaire de ${school}. Si ce n’était pas vous, vous n’avez rien à faire.`,
  },
  es: {
    subject: (title) => `Sus respuestas: ${title}`,
    arrived: (school, when) => `Estas respuestas llegaron a ${school} el ${when}.`,
    yes: 'Sí',
    signed: 'Firmado',
    link: '(un enlace, omitido)',
    change: 'Cambiar las respuestas',
    paper: 'Llevarse su documento',
    why: (school) =>
      `Recibe esto porque alguien escribió esta dirección en un formulario de ${school}. Si no fue usted, no tiene que hacer nada.`,
  },
  it: {
    subject: (title) => `Le Sue risposte: ${title}`,
    arrived: (school, when) => `Queste risposte sono arrivate a ${school} il ${when}.`,
    yes: 'Sì',
    signed: 'Firmato',
    link: '(un link, omesso)',
    change: 'Modificare le risposte',
    paper: 'Prendere il Suo documento',
    why: (school) =>
      `Riceve questo messaggio perché qualcuno ha scritto questo indirizzo in un modulo di ${school}. Se non è stato Lei, non deve fare nulla.`,
  },
  nl: {
    subject: (title) => `Uw antwoorden: ${title}`,
    arrived: (school, when) => `Deze antwoorden zijn op ${when} bij ${school} aangekomen.`,
    yes: 'Ja',
    signed: 'Ondertekend',
    link: '(een link, weggelaten)',
    change: 'Antwoorden wijzigen',
    paper: 'Uw document meenemen',
    why: (school) =>
      `U krijgt dit omdat iemand dit adres in een formulier van ${school} heeft geschreven. Was u dat niet, dan hoeft u niets te doen.`,
  },
  pl: {
    subject: (title) => `Odpowiedzi: ${title}`,
    arrived: (school, when) => `Te odpowiedzi dotarły do: ${school}, ${when}.`,
    yes: 'Tak',
    signed: 'Podpisano',
    link: '(link, pominięty)',
    change: 'Zmień odpowiedzi',
    paper: 'Pobierz dokument',
    why: (school) =>
      `Ta wiadomość przyszła, ponieważ ktoś wpisał ten adres w formularzu (${school}). Jeśli to pomyłka, nie trzeba nic robić.`,
  },
  pt: {
    subject: (title) => `As suas respostas: ${title}`,
    arrived: (school, when) => `Estas respostas chegaram a ${school} em ${when}.`,
    yes: 'Sim',
    signed: 'Assinado',
    link: '(uma ligação, omitida)',
    change: 'Alterar as respostas',
    paper: 'Levar o seu documento',
    why: (school) =>
      `Recebe isto porque alguém escreveu este endereço num formulário de ${school}. Se não foi você, não tem de fazer nada.`,
  },
};

export const COPY_LANGUAGES = Object.keys(WORDS);
export const copyWords = (language: string): CopyWords => WORDS[language.split('-')[0]!] ?? WORDS['en']!;
