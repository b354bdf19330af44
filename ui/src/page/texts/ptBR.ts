import { towns } from '../../time/towns/pt-BR.gen'
import { answers } from './answers.pt'
import type { Texts } from './en'
import { pt } from './pt'

/** Words that Brazil has others for; "ligação" would change its gender as "link", so that its sentences stand below. */
const words: [RegExp, string][] = [
  [/\bmorada\b/g, 'endereço'],
  [/\bficheiro/g, 'arquivo'],
  [/\bequipa\b/g, 'equipe'],
  [/\b(por isso )?de momento\b/g, '$1no momento'],
  [/\baceite:/g, 'aceito:'],
  [/\bmais pequeno, ou uma ligação/g, 'menor, ou um link'],
  [/\bdemasiados\b/g, 'muitos'],
]

function inBrazil(sentence: string): string {
  return words.reduce((said, [here, there]) => said.replace(here, there), sentence)
}

/** Portuguese as Brazil writes it: European Portuguese, with Brazil's own words, forms and dates. */
export const ptBR: Texts = {
  ...pt,
  dates: {
    ...pt.dates,
    weekdaysShort: 'dom. seg. ter. qua. qui. sex. sáb.'.split(' '),
    monthsShort: 'jan. fev. mar. abr. mai. jun. jul. ago. set. out. nov. dez.'.split(' '),
    short: (weekday, day, month) => `${weekday}, ${day} de ${month}`,
    dayAndMonth: (day, month) => `${day} de ${month}`,
    withYear: (date, year) => `${date} de ${year}`,
    towns,
  },
  server: {
    ...Object.fromEntries(Object.entries(answers).map(([asked, answer]) => [asked, inBrazil(answer)])),
    'address-missing': 'Informe o endereço onde nos encontramos.',
    'list-on': 'Este endereço já está na lista de espera. O link no e-mail sobre ela leva ao seu lugar.',
    'seats-few':
      'Nesse horário há menos lugares livres do que você quer. Nada do que você escreveu se perdeu: escolha outro horário ou retire alguém.',
    'along-many': 'Não podem vir tantas pessoas com você; no máximo {}.',
    'along-on-list': 'A espera é por um único lugar. Retire quem acompanha você; cada pessoa pode entrar na lista.',
    'along-name': 'Informe o nome de quem acompanha você.',
    'series-full': 'Esta série acabou de lotar. Nada do que você escreveu se perdeu: escolha outra e reserve-a.',
    'series-stays':
      'Esta data faz parte de uma série reservada por inteiro e não pode ser mudada. Cancele só esta, ou escreva ao seu anfitrião.',
    'seat-not-yet': 'Ainda não há nenhum lugar livre para você. Escrevemos assim que houver um.',
    'list-full': 'Já há muitas pessoas esperando. Escolha outra data, ou escreva para {}.',
    'seat-over': 'O lugar ficou reservado para você por algum tempo, que já passou. Foi oferecido à próxima pessoa.',
    'booking-unknown': 'Este link não leva, ou já não leva, a um agendamento. Use o link do seu último e-mail.',
    'offer-unknown': 'Este link não leva, ou já não leva, a uma proposta. Use o do seu último e-mail sobre ela.',
    'offer-taken': 'Um destes horários já foi ocupado. O link no e-mail desse agendamento leva até ele.',
    'files-busy':
      'Muitos arquivos estão sendo enviados agora. Nada se perdeu: tente daqui a uma hora, ou marque sem o arquivo.',
    'correct-late': 'O que você escreveu já não pode ser corrigido aqui. Escreva ao seu anfitrião.',
    'files-spent':
      'Você enviou arquivos demais sem marcar. Nada se perdeu: marque com os que já enviou, ou tente amanhã.',
  },
  away: 'O Corrim não respondeu. Nada do que você escreveu se perdeu: verifique a conexão e tente de novo.',
  oneOfUs: inBrazil(pt.oneOfUs),
  andOneOfUs: inBrazil(pt.andOneOfUs),
  ways: { ...pt.ways, ours: 'no nosso endereço', theirs: 'no seu endereço' },
  looking: 'Verificando a agenda …',
  noneAhead: 'Também nas próximas semanas não há nada livre. Escreva para nós.',
  ownCalendarHint: 'Escolha um arquivo .ics ou solte-o aqui. Ele fica no seu navegador; nada é enviado.',
  ownCalendarUnread: inBrazil(pt.ownCalendarUnread),
  takeItAway: 'Remover a sua agenda',
  removeFile: 'Remover',
  sendingFile: 'Enviando o arquivo …',
  yourAddress: 'O endereço onde nos encontramos',
  phoneHint: 'Com o código do país, como +44 20 7946 0958.',
  remark: () => 'Quer nos dizer alguma coisa antes?',
  mayChange: (day) => `${day}. Pelo link no seu e-mail você pode mudar ou cancelar.`,
  willDecide: (day) => `${day}. Você recebe a decisão por e-mail.`,
  willProve: (day) => `${day}. Você recebe um código por e-mail; digite-o, e o horário é seu.`,
  willProveTexted: (day) => `${day}. Você recebe um código por SMS; digite-o, e o horário é seu.`,
  shareTime: (n) => `Até ${n} pessoas compartilham o mesmo horário.`,
  fromPeople: (least) => `Acontece a partir de ${least} pessoas.`,
  shareSession: (n) => `Até ${n} pessoas participam de cada vez.`,
  wholeSeries: 'Uma série é reservada por inteiro, com todas as datas.',
  alongName: 'Nome de quem acompanha você',
  alongMail: 'E-mail de quem acompanha você',
  yourDates: 'Suas datas',
  freshDates: (n) => `Suas ${n} datas estão reservadas.`,
  full: (waiting) => (waiting === 0 ? 'lotado' : `lotado, ${waiting} em espera`),
  willWait: 'Escrevemos para você assim que houver um lugar livre.',
  offList: 'Você não está mais na lista de espera.',
  placeInList: (ahead) =>
    `${ahead === 0 ? 'O próximo lugar é seu' : ahead === 1 ? 'Há uma pessoa na sua frente' : `Há ${ahead} pessoas na sua frente`}. Escrevemos para você assim que houver um lugar livre.`,
  offeredUntil: (until) => `Está reservado para você até ${until}. Depois é oferecido à próxima pessoa.`,
  onItsWay: (mail) => ['O convite está a caminho de ', mail, '.'],
  codeSent: (mail, until) => [
    'Um código de seis dígitos está a caminho de ',
    mail,
    '. O horário fica reservado até ',
    until,
    '.',
  ],
  enterCode: 'Digitar o código',
  codeAgain: 'Enviar o código de novo',
  codeAgainHint: 'Nada depois de um minuto? Veja também na caixa de spam, ou corrija o endereço.',
  codeSentAgain: 'O código foi enviado de novo.',
  codePhone: 'Seu celular, para o código',
  codeLost: 'O SMS com o código não pôde ser entregue. Corrija o número e peça o código de novo.',
  weCall: (number) => ['Ligamos para você no número ', number, '.'],
  youCall: (number) => ['Ligue para nós no número ', number, '.'],
  roomLate: 'A sala ainda não pôde ser criada. Você recebe o link por e-mail assim que existir.',
  roomComing: 'O link está sendo criado; ele vai no seu e-mail.',
  correct: 'Corrigir o que você escreveu',
  correctSave: 'Salvar',
  correctedOn: (day) => `Você corrigiu o que escreveu em ${day}.`,
  youMovedOn: (day) => `Você mudou a reunião para este horário em ${day}.`,
  movedOn: (day) => `A reunião foi mudada para este horário em ${day}.`,
  followIt: 'Assinar em um programa de agenda',
  recorded: 'A reunião é gravada.',
  whyNeeded: 'Por quê?',
  youCome: 'Você confirmou que vai estar presente.',
  textsPhone: 'Celular para SMS',
  textsCome: (phone) => `Os SMS sobre esta reunião vão para ${phone}.`,
  textsStop: 'Parar de receber',
  followUpsCome: 'Depois das suas reuniões, você pode receber e-mails, um agradecimento por exemplo.',
  followUpsLeft: 'Você não recebe mais e-mails depois das suas reuniões.',
  rateAsk: 'Como foi?',
  rated: (n) => `Obrigado. Você deu ${n} de 5.`,
  instead: (day, clock) =>
    `${pt.instead(day, clock).split(', em vez disso')[0]}, em vez disso. O link e o convite continuam válidos.`,
  nothingOffered: 'No momento nada pode ser marcado aqui. Escreva para nós.',
  moreTypes: (n) => `e mais ${n}, nas páginas da nossa equipe`,
  ourPeople: 'Nossa equipe',
}
