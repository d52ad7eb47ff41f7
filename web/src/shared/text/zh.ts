import type { Pass } from './en'

/** Chinese, simplified, for what is seen at the pass. */
export const zh: Pass = {
  time: { d: '{{count}} 天', h: '{{count}} 小时', min: '{{count}} 分钟', s: '{{count}} 秒' },
  places: { shift: '当班', batches: '批次', plans: '计划', bench: '计算', ledger: '台账' },
  state: {
    pass: '达标', too_close: '太接近', fail: '未达标', pending: '进行中', not_measured: '未测量', will_fail: '将错过', late: '已迟', due: '到时', upcoming: '稍后',
    done: '完成', missed: '漏检', would_meet: '应可达标', would_fail: '将不达标', ask: '先请示', advisory: '仅附提示',
  },
  roles: { lead: '负责人', cook: '厨师', reviewer: '复核人', system: '系统' },
  quantity: { core: '中心', bath: '水浴', air: '空气', ph: 'pH', salt: '盐', aw: '水分活度', unknown: '未说明', age: '天数' },
  kinds: { receive: '收货', seal: '封袋', bath_cook: '水浴', slurry_chill: '冰水', cold_keep: '冷藏', reheat: '复热', pickle: '腌渍' },
  decision: { release: '放行', rework: '返工', discard: '丢弃' },
  caution: '用于计划和记录的辅助工具。以您的计划、当地法规和主管部门为准。',
  loading: '加载中',
  problem: { offline: '无法连接服务器。您输入的内容仍在此处；恢复后再发送。', again: '重试', unknown: '未成功。没有保存任何内容。' },
  menu: {
    places: '位置', skip: '跳到内容', me: '已登录：{{name}}，{{role}}', switch: '换人', out: '退出', dark: '深色', light: '浅色', theme: '底色：{{name}}',
    units: '温度用 {{unit}}', lengths: '长度用 {{unit}}', masses: '质量用 {{unit}}', language: '语言',
  },
  signIn: {
    title: '登录', again: '登录已过期。您输入的内容仍在：请登录后继续。', lead: '危害控制计划，以及证明其执行的记录。', name: '姓名', password: '密码', go: '登录', wait: '核对中',
    pin: '{{name}} 的 PIN', who: '您是谁？', back: '其他人', usePassword: '用密码登录',
  },
  shift: {
    title: '{{day}}{{part}}班',
    part: { morning: '早', middle: '中', evening: '晚', night: '夜' },
    sub: '{{site}} · 海拔 {{altitude}} m，水沸点 {{boiling}}',
    next: '接下来', counts: '{{late}} 项已迟 · {{trouble}} 项有问题 · {{due}} 项到时', none: '没有进行中的批次。请从已签署的计划开始。', nothingDue: '暂无待办。',
    start: '开始批次', open: '打开', begin: '开始', review: '复核', due: '{{time}} 到时', bags: '{{packs}} 袋 · {{mass}}', lanes: '进行中的批次与时间',
    window: { day: '日', week: '周' },
    quiet: '正常', notBegun: '尚未开始', late: '迟 {{time}}',
  },
  batch: {
    list: '批次', listEmpty: '还没有批次。请先签署计划，再开始。', start: '开始批次', startTitle: '开始批次', plan: '计划', packs: '袋数', began: '开始于',
    beganHint: '留空为现在。若更早，填如 08:25 的时间。', noPlan: '尚无已签署的计划。批次须从已签署的计划开始。',
    sub: '{{packs}} 袋 · {{mass}} · 计划第 {{version}} 版 · {{by}} 于 {{when}} 开始',
    limits: '关键限值', checks: '检查', readings: '读数', traces: '记录仪文件', deviations: '偏差', noReadings: '还没有读数。', noTraces: '没有。将记录仪文件拖到此处或选择文件。',
    begin: '开始 {{name}}', finish: '结束 {{name}}', log: '记录 {{what}}', working: '计算', hide: '收起计算', correct: '更正', corrected: '已被后来的记录替换',
    corrects: '更正先前的记录', confirmed: '已询问并确认', entered: '{{time}} 后补记', taken: '时间', step: '步骤', what: '项目', reading: '读数', instrument: '仪器',
    by: '记录人', record: '记录', pdf: 'PDF', csv: 'CSV', json: 'JSON', curve: '曲线', table: '图表数据', hideTable: '收起数据', openedAs: '开启时：{{sentence}}',
    ways: '现在可做的', works: '来得及', worksNot: '仍然太迟', doThis: '已做：记录', other: '做了别的处理', otherPlaceholder: '做了什么', changes: '从此冷却方式改变',
    recordAction: '记录', actions: '已记录的措施', decide: '对 {{name}} 作决定', reason: '理由，将印在记录上', password: '您的密码，作为签名', countersign: '复核并会签',
    countersignGo: '会签', blocking: '放行之前', closed: '{{decision}}，{{when}}，{{by}}', closedReason: '理由：{{reason}}', decided: '决定：{{decision}}，{{by}}，{{when}}。{{reason}}',
    undecided: '由负责人或复核人决定：放行、返工或丢弃。', forecastCause: '预计', breachCause: '违反限值', unprovedCause: '从未证明', takeUp: '不会再有读数：对 {{title}} 作决定',
    due: '{{time}} 到时', planned: '计划 {{time}}', releasePassword: '您的密码，用于放行',
    releaseHint: '放行需要检查员能看懂的理由和您的密码。有他人可决定时，记录读数者不得决定。', missedWhy: '说明为何漏检', missedReason: '为何漏检：{{what}}',
    missedHint: '发生了什么，另有何所知', missedSave: '记录', missedSaid: '漏检：{{reason}}（{{by}}）', another: '另一读数，{{name}}：', rightTime: '是，时间正确',
    stepAt: '开始或结束的时间（若非现在）', expectedBand: '预期 {{low}} 至 {{high}}', running: '{{name}} 自 {{time}} 进行中', waiting: '下一步：{{name}}', source: '来源：{{citation}}',
    by_hand: '手动', cautionChill: '预测仅供计划；只有读数才能判定达标。在生长区的时间无法靠复热挽回。',
  },
  outbox: {
    waits_one: '有一个读数留在本平板，尚未记录。服务器恢复后自动发送。', waits_other: '有 {{count}} 个读数留在本平板，尚未记录。服务器恢复后自动发送。',
    entry: '{{what}}：{{time}} 为 {{value}} {{unit}}。', refused: '被拒绝：{{sentence}} 请手动重新记录。', seen: '移除',
  },
  pad: {
    title: '记录读数', save: '记录', sendAgain: '再次发送', later: '留在此处，自动发送', turn: '单位 {{unit}}；点按换单位', instrument: '仪器', time: '读取时间', now: '现在',
    yes: '是，按所输入保留', fahrenheit: '是 °F：记为 {{value}}', change: '更改', overdue: '校准过期', empty: '请输入数字', wait: '仪器列表尚未到达。请稍候再记录。', delete: '删除末位',
    clockWrong: '请输入如 13:05 的时间。', correcting: '更正 {{time}} 的 {{value}}。两者都留在记录中。', note: '备注',
  },
  trace: {
    choose: '选择记录仪文件', tooLarge: '文件 {{size}} MB；最多 {{most}} MB。请导出较短的时段。', reading: '正在读取文件', assumed: '所作假定', check: '请检查', sure: '按所读',
    left: '略去', channel: '通道', is: '测量', unit: '单位', spans: '{{first}} 至 {{last}}，每 {{interval}}，{{count}} 个读数', attach: '附到 {{name}}', logger: '记录仪', dates: '日期',
    day_first: '日、月、年', month_first: '月、日、年', year_first: '年、月、日', zone: '时区', shift: '移动时钟，使文件与步骤同时开始', moved: '文件时钟移动 {{time}}。记录会注明。',
    movedWhy: '其时钟为何有误，如何得知误差', movedLead: '只有负责人可移动记录仪的时钟。', allTheSame: '仍要附上', cancel: '取消', forStep: '用于步骤', title: '记录仪文件 {{name}}',
    range: '{{low}} 至 {{high}}',
  },
  chart: {
    words: '{{time}}：{{values}}', help: '左右方向键移动读数线。', core: '中心', bath: '水浴或冰水', expected: '预期', byHand: '手动', growth: '生长区', by: '{{label}}，{{time}} 前',
    empty: '尚未测量。', surface: '表面',
  },
}
