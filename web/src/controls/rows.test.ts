import { describe, expect, it } from 'vitest'
import { asCsv, asPasted, fileName, isRows } from './rows'

describe('rows that leave Kevyt', () => {
  const rows = [
    ['name', 'each (g)', 'note'],
    ['tent, two skins', 1910, 'says "dome"'],
    ['mug', -12, null],
  ]
  it('are a CSV file that spreadsheets read as UTF-8', () => {
    expect(asCsv(rows)).toBe('\uFEFFname,each (g),note\n"tent, two skins",1910,"says ""dome"""\nmug,-12,\n')
  })
  it('are pasted by tabs', () => {
    expect(asPasted(rows)).toBe('name\teach (g)\tnote\ntent, two skins\t1910\t"says ""dome"""\nmug\t-12\t')
  })
  it('are run by no spreadsheet, whatever a thing is called', () => {
    expect(asPasted([['=1+1', '+cmd', '-x', '@y', ' =z', '-4.5']])).toBe("'=1+1\t'+cmd\t'-x\t'@y\t' =z\t-4.5")
  })
  it('are told from a line by a tab or a second line', () => {
    expect(['mug 98g', 'mug\t98', 'mug 98g\nspoon 12g', 'mug 98g\n\n'].map(isRows)).toEqual([
      false,
      true,
      true,
      false,
    ])
  })
  it('are filed by what they are of', () => {
    expect(fileName('Ranking of Fell range: 7 days')).toBe('ranking-of-fell-range-7-days')
  })
})
